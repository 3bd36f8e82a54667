/** A column of the grid: one day, or the week that begins with it. */
export type Column = { from: string; to: string; weekday: string | null; number: string; month: string }

/** More working days than these are shown week by week. */
const MOST_DAYS = 22
const DAY_MS = 86_400_000

const utc = (date: string) => Date.parse(`${date}T00:00:00Z`)
const iso = (at: number) => new Date(at).toISOString().slice(0, 10)
const part = (at: number, options: Intl.DateTimeFormatOptions) =>
  new Intl.DateTimeFormat('en-GB', { ...options, timeZone: 'UTC' }).format(new Date(at))

/**
 * The days from the first to the last on which something happens: working days and whatever else is asked for, or weeks where they
 * would be too many to read.
 */
export function columns(dates: string[]): Column[] {
  if (dates.length === 0) return []
  const busy = new Set(dates)
  const sorted = [...busy].sort()
  const [first, last] = [utc(sorted[0] ?? ''), utc(sorted.at(-1) ?? '')]
  const days: number[] = []
  for (let at = first; at <= last; at += DAY_MS) if (isWorkday(at) || busy.has(iso(at))) days.push(at)
  if (days.length <= MOST_DAYS)
    return days.map((at) => ({ ...named(at), from: iso(at), to: iso(at), weekday: part(at, { weekday: 'short' }) }))
  const weeks: Column[] = []
  for (let at = monday(first); at <= last; at += 7 * DAY_MS)
    weeks.push({ ...named(at), from: iso(at), to: iso(at + 6 * DAY_MS), weekday: null })
  return weeks
}

const isWorkday = (at: number) => ![0, 6].includes(new Date(at).getUTCDay())
const monday = (at: number) => at - ((new Date(at).getUTCDay() + 6) % 7) * DAY_MS
const named = (at: number) => ({ number: part(at, { day: 'numeric' }), month: part(at, { month: 'short' }) })

/** How much falls into a column. */
export const within = <Item extends { date: string }>(items: Item[], { from, to }: Column): Item[] =>
  items.filter(({ date }) => date >= from && date <= to)

/** On how many of its days something can leave: the limit of a week is so many times that of a day. */
export function workdays({ from, to }: Column): number {
  let count = 0
  for (let at = utc(from); at <= utc(to); at += DAY_MS) if (isWorkday(at)) count += 1
  return Math.max(1, count)
}
