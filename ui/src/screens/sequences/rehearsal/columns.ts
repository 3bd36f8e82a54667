/** A column of the grid: one day, or the week or month that begins with it. */
export type Column = {
  of: 'day' | 'week' | 'month'
  from: string
  to: string
  weekday: string
  number: string
  month: string
  year: string
}

/** More working days than these are shown week by week. */
const MOST_DAYS = 22
/** More weeks than these are shown month by month. */
const MOST_WEEKS = 27
const DAY_MS = 86_400_000

const utc = (date: string) => Date.parse(`${date}T00:00:00Z`)
const iso = (at: number) => new Date(at).toISOString().slice(0, 10)
const part = (at: number, options: Intl.DateTimeFormatOptions) =>
  new Intl.DateTimeFormat('en-GB', { ...options, timeZone: 'UTC' }).format(new Date(at))

/**
 * The days from the first to the last on which something happens: working days and whatever else is asked for, or weeks or months
 * where they would be too many to read.
 */
export function columns(dates: string[]): Column[] {
  if (dates.length === 0) return []
  const busy = new Set(dates)
  const sorted = [...busy].sort()
  const [first, last] = [utc(sorted[0] ?? ''), utc(sorted.at(-1) ?? '')]
  const days: number[] = []
  for (let at = first; at <= last; at += DAY_MS) if (isWorkday(at) || busy.has(iso(at))) days.push(at)
  if (days.length <= MOST_DAYS) return days.map((at) => column('day', at, at))
  const weeks: Column[] = []
  for (let at = monday(first); at <= last; at += 7 * DAY_MS) weeks.push(column('week', at, at + 6 * DAY_MS))
  if (weeks.length <= MOST_WEEKS) return weeks
  const months: Column[] = []
  for (let at = monthOf(first); at <= last; at = monthOf(at, 1)) months.push(column('month', at, monthOf(at, 1) - DAY_MS))
  return months
}

/** A column in words, as it stands behind a mailbox or a colleague. */
export const columnWords = ({ of, weekday, number, month, year }: Column): string =>
  ({ day: `${weekday} ${number} ${month}`, week: `the week of ${number} ${month}`, month: `${month} ${year}` })[of]

const isWorkday = (at: number) => ![0, 6].includes(new Date(at).getUTCDay())
const monday = (at: number) => at - ((new Date(at).getUTCDay() + 6) % 7) * DAY_MS
const monthOf = (at: number, later = 0) => Date.UTC(new Date(at).getUTCFullYear(), new Date(at).getUTCMonth() + later)
const column = (of: Column['of'], from: number, to: number): Column => ({
  of,
  from: iso(from),
  to: iso(to),
  weekday: part(from, { weekday: 'short' }),
  number: part(from, { day: 'numeric' }),
  month: part(from, { month: 'short' }),
  year: part(from, { year: 'numeric' }),
})

/** How much falls into a column. */
export const within = <Item extends { date: string }>(items: Item[], { from, to }: Column): Item[] =>
  items.filter(({ date }) => date >= from && date <= to)

/** On how many of its days something can leave: the limit of a week is so many times that of a day. */
export function workdays({ from, to }: Column): number {
  let count = 0
  for (let at = utc(from); at <= utc(to); at += DAY_MS) if (isWorkday(at)) count += 1
  return Math.max(1, count)
}
