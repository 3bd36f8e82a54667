import type { Shape } from '../../../api/client'
import type { Branch } from './edit'

type Step = Shape<'Step'>
type Lane = Shape<'Lane'>

/** What stands on the ruler. col, span: columns of lanes, from 0; top, height: pixels; branch, at: where in the plan it is. */
export type Item = {
  col: number
  span: number
  top: number
  height: number
  branch: Branch
  at: number
} & (
  | { kind: 'step'; step: Step }
  | { kind: 'lane'; lane: Lane; fork: Step }
  | { kind: 'end'; lane: Lane; fork: Step }
  // Where the lanes of a fork come together again.
  | { kind: 'join'; fork: Step }
)

/** A stretch of the ruler: a day with steps or without, days off taken together, or a longer time in which nothing happens. */
export type Row =
  | { kind: 'day'; date: string; day: number; top: number; height: number; busy: boolean }
  | { kind: 'off' | 'fold'; from: string; to: string; top: number; height: number; words: string }

/** A line between two items: down from one to the other, and across where their columns differ. */
export type Line = { from: Item; to: Item }

export type Layout = { items: Item[]; rows: Row[]; lines: Line[]; height: number; columns: number; dense: boolean }

export const AXIS_PX = 96
/** Below each item is room for what can be added there. */
export const GAP_PX = 24
const STEP_PX = { roomy: 76, dense: 50 }
const NOTE_PX = 18
const FORK_PX = 30
const LANE_PX = 26
const END_PX = 16
const JOIN_PX = 2
const DAY_PX = 22
const FOLD_PX = 24
/** So many days without a step are drawn one by one; more are one mark. */
const DRAWN_DAYS = 5
/** From so many steps on, cards say less. */
const DENSE_FROM = 9
const DAY_MS = 86_400_000

const time = (date: string) => new Date(`${date}T00:00:00Z`).getTime()
const shift = (date: string, days: number) => new Date(time(date) + days * DAY_MS).toISOString().slice(0, 10)
const between = (from: string, to: string) => Math.round((time(to) - time(from)) / DAY_MS)

type Placing = Item & { date: string }
type Ends = { first: Item | null; last: Item[] }

/** Lays a plan out on days: each step at the day it falls on, lanes side by side, days off short, long waits folded. */
export function layOut(steps: Step[], daysOff: string[], noted: Set<number> = new Set()): Layout {
  const dense = countSteps(steps) >= DENSE_FROM
  const items: Placing[] = []
  const lines: Line[] = []
  const tall = (step: Step) =>
    (step.kind === 'fork' ? FORK_PX : STEP_PX[dense ? 'dense' : 'roomy']) + (noted.has(step.id) ? NOTE_PX : 0)

  const place = (branch: Step[], at: Branch, col: number, span: number): Ends => {
    let before: Item[] = []
    let first: Item | null = null
    branch.forEach((step, i) => {
      const item: Placing = { kind: 'step', step, col, span, top: 0, height: tall(step), branch: at, at: i, date: step.date }
      items.push(item)
      first ??= item
      for (const one of before) lines.push({ from: one, to: item })
      if (step.kind !== 'fork') before = [item]
      else {
        const on = fork(step, item)
        const date = lastDay(step)
        const join: Placing = { kind: 'join', fork: step, col, span, top: 0, height: JOIN_PX, branch: at, at: i + 1, date }
        items.push(join)
        for (const one of on) lines.push({ from: one, to: join })
        before = [join]
      }
    })
    return { first, last: before }
  }
  const fork = (step: Step, item: Placing): Item[] => {
    const on: Item[] = []
    let col = item.col
    for (const [i, lane] of (step.lanes ?? []).entries()) {
      const span = widthOf(lane.steps)
      const branch = { fork: step.id, lane: i }
      const common = { lane, fork: step, col, span, top: 0, branch }
      const head: Placing = { kind: 'lane', ...common, height: LANE_PX, at: 0, date: step.date }
      items.push(head)
      lines.push({ from: item, to: head })
      const { first, last } = place(lane.steps, branch, col, span)
      if (first) lines.push({ from: head, to: first })
      const ends = last.length > 0 ? last : [head]
      if (lane.comes_back) on.push(...ends)
      else {
        const date = lane.steps.map(lastDay).at(-1) ?? step.date
        const end: Placing = { kind: 'end', ...common, height: END_PX, at: lane.steps.length, date }
        items.push(end)
        for (const one of ends) lines.push({ from: one, to: end })
      }
      col += span
    }
    return on
  }
  const columns = widthOf(steps)
  place(steps, null, 0, columns)
  const { rows, height } = stack(items, columns, new Set(daysOff))
  return { items, rows, lines, height, columns, dense }
}

const lastDay = (step: Step): string => {
  const inside = (step.lanes ?? []).flatMap((lane) => lane.steps.map(lastDay))
  return [step.date, ...inside].toSorted().at(-1) ?? step.date
}

const countSteps = (steps: Step[]): number =>
  steps.reduce((sum, step) => sum + 1 + (step.lanes ?? []).reduce((inside, lane) => inside + countSteps(lane.steps), 0), 0)

function widthOf(steps: Step[]): number {
  return Math.max(1, ...steps.map((step) => (step.lanes ?? []).reduce((sum, lane) => sum + widthOf(lane.steps), 0)))
}

/** Gives each item its place from above: by day, and within a day below what stands before it in its columns. */
function stack(items: Placing[], columns: number, off: Set<string>): { rows: Row[]; height: number } {
  const dates = [...new Set(items.map((item) => item.date))].toSorted()
  const rows: Row[] = []
  let top = 0
  let before: string | null = null
  for (const date of dates) {
    if (before) top = quiet(rows, before, date, dates[0] ?? date, off, top)
    const filled = new Array<number>(columns).fill(0)
    for (const item of items.filter((one) => one.date === date)) {
      const mine = filled.slice(item.col, item.col + item.span)
      const at = Math.max(...mine)
      item.top = top + at
      filled.fill(at + item.height + GAP_PX, item.col, item.col + item.span)
    }
    const height = Math.max(...filled)
    rows.push({ kind: 'day', date, day: between(dates[0] ?? date, date), top, height, busy: true })
    top += height
    before = date
  }
  return { rows, height: top }
}

/** What lies between two days with steps. */
function quiet(rows: Row[], from: string, to: string, first: string, off: Set<string>, start: number): number {
  const days = between(from, to) - 1
  if (days <= 0) return start
  let top = start
  if (days > DRAWN_DAYS) {
    rows.push({ kind: 'fold', from: shift(from, 1), to: shift(to, -1), top, height: FOLD_PX, words: stretch(days) })
    return top + FOLD_PX
  }
  for (let date = shift(from, 1); date < to; date = shift(date, 1)) {
    const last = rows.at(-1)
    if (off.has(date) && last?.kind === 'off' && last.to === shift(date, -1)) {
      last.to = date
      last.words = offWords(last.from, date)
    } else if (off.has(date)) {
      rows.push({ kind: 'off', from: date, to: date, top, height: DAY_PX, words: offWords(date, date) })
      top += DAY_PX
    } else {
      rows.push({ kind: 'day', date, day: between(first, date), top, height: DAY_PX, busy: false })
      top += DAY_PX
    }
  }
  return top
}

/** A time in which nothing happens, as people say it. */
export function stretch(days: number): string {
  const weeks = Math.round(days / 7)
  if (days >= 60) return `${Math.round(days / 30.4)} months`
  return days >= 12 ? `${weeks} weeks` : `${days} days`
}

/** A Saturday and Sunday are a weekend; anything else is said as days off. */
function offWords(from: string, to: string): string {
  const weekend = new Date(time(from)).getUTCDay() === 6 && shift(from, 1) === to
  return weekend ? 'weekend' : 'days off'
}
