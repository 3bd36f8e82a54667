/** A row of the ruler: a day, or days off taken together. Heights are in pixels. */
export type RulerRow =
  | { kind: 'day'; date: string; day: number; top: number; height: number; steps: number[] }
  | { kind: 'off'; from: string; to: string; top: number; height: number; words: string }

const DAY_PX = 34
const OFF_PX = 24
const CARD_PX = 92
const MAX_EMPTY_DAYS = 12
const DAY_MS = 86_400_000

const shift = (date: string, days: number) =>
  new Date(new Date(`${date}T00:00:00Z`).getTime() + days * DAY_MS).toISOString().slice(0, 10)

/** Lays a plan out on days: each step at the day it falls on, days off short and hatched, long waits drawn together. */
export function layOut(dates: string[], daysOff: string[]): { rows: RulerRow[]; height: number } {
  // Lanes stand side by side in time, so that a later step may fall on an earlier day.
  const [first, last] = [dates.toSorted()[0], dates.toSorted().at(-1)]
  if (!first || !last) return { rows: [], height: 0 }
  const off = new Set(daysOff)
  const rows: RulerRow[] = []
  let top = 0
  let empty = 0
  for (let date = first, day = 0; date <= last; date = shift(date, 1), day++) {
    const steps = dates.flatMap((one, i) => (one === date ? [i] : []))
    const previous = rows.at(-1)
    if (off.has(date) && steps.length === 0) {
      if (previous?.kind === 'off') previous.to = date
      else {
        rows.push({ kind: 'off', from: date, to: date, top, height: OFF_PX, words: 'weekend' })
        top += OFF_PX
      }
      continue
    }
    empty = steps.length > 0 ? 0 : empty + 1
    if (empty > MAX_EMPTY_DAYS) continue
    const height = steps.length > 0 ? steps.length * CARD_PX : DAY_PX
    rows.push({ kind: 'day', date, day, top, height, steps })
    top += height
  }
  return { rows: rows.map((row) => (row.kind === 'off' ? { ...row, words: offWords(row.from, row.to) } : row)), height: top }
}

/** A Saturday and Sunday are a weekend; anything else is said as days off. */
function offWords(from: string, to: string): string {
  const weekend = new Date(`${from}T00:00:00Z`).getUTCDay() === 6 && shift(from, 1) === to
  return weekend ? 'weekend' : 'days off'
}
