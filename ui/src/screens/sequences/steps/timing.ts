import type { Shape } from '../../../api/client'
import { timeOfDay } from '../../../app/format'

/** When a step goes out, as both a step and the wait of a fork have it. */
export type Timing = Pick<
  Shape<'Step'>,
  'counted' | 'amount' | 'unit' | 'on_date' | 'field' | 'yearly' | 'from_minute' | 'to_minute' | 'weekdays' | 'days' | 'zone'
> & { late?: 'skip' | 'at_once'; no_date?: 'skip' | 'leave' }
export type Unit = Timing['unit']

export const UNITS: { value: Unit; one: string; many: string; short?: boolean }[] = [
  { value: 'working_days', one: 'working day', many: 'working days' },
  { value: 'days', one: 'day', many: 'days' },
  { value: 'weeks', one: 'week', many: 'weeks' },
  { value: 'months', one: 'month', many: 'months' },
  { value: 'hours', one: 'hour', many: 'hours', short: true },
  { value: 'minutes', one: 'minute', many: 'minutes', short: true },
]
// Monday first; 0 is Sunday.
export const WEEKDAYS = [
  { day: 1, words: 'Monday' },
  { day: 2, words: 'Tuesday' },
  { day: 3, words: 'Wednesday' },
  { day: 4, words: 'Thursday' },
  { day: 5, words: 'Friday' },
  { day: 6, words: 'Saturday' },
  { day: 0, words: 'Sunday' },
]
export const EVERY_DAY = [0, 1, 2, 3, 4, 5, 6]
export const isWeekday = (day: number) => day !== 0 && day !== 6

/** "3 working days" */
export function soLong(amount: number, unit: Unit): string {
  const words = UNITS.find((one) => one.value === unit)
  const count = Math.abs(amount)
  return `${count} ${count === 1 ? words?.one : words?.many}`
}

/** "9:00–11:30", or "9:00" for exactly then. */
export function hours({ from_minute, to_minute }: Pick<Timing, 'from_minute' | 'to_minute'>): string {
  if (from_minute === 0 && to_minute === 1440) return 'any hour'
  return from_minute === to_minute ? timeOfDay(from_minute) : `${timeOfDay(from_minute)}–${timeOfDay(to_minute)}`
}

/** "between 9:00 and 11:30", or "at 9:00" for exactly then. */
export function between({ from_minute, to_minute }: Pick<Timing, 'from_minute' | 'to_minute'>): string {
  if (from_minute === to_minute) return `at ${timeOfDay(from_minute)}`
  return `between ${timeOfDay(from_minute)} and ${timeOfDay(to_minute)}`
}

/** "on Tue to Thu", "on working days", "on any day". */
export function daysWords({ weekdays, days }: Pick<Timing, 'weekdays' | 'days'>): string {
  const meant = WEEKDAYS.filter(({ day }) => weekdays.includes(day) && (days === 'any' || isWeekday(day)))
  if (days === 'working' && meant.length === 5) return 'on working days'
  if (meant.length === 7) return 'on any day'
  return `on ${spans(meant.map(({ day }) => day))}${days === 'any' ? ', days off too' : ''}`
}

const short = (day: number) => WEEKDAYS.find((one) => one.day === day)?.words.slice(0, 3) ?? ''

/** Three or more in a row as a span. */
function spans(days: number[]): string {
  const runs = days.reduce<number[][]>((all, day) => {
    const last = all.at(-1)
    const before = last?.at(-1)
    if (last && before !== undefined && (day - before + 7) % 7 === 1) last.push(day)
    else all.push([day])
    return all
  }, [])
  const words = runs.flatMap((run) =>
    run.length > 2 ? [`${short(run[0] ?? 0)} to ${short(run.at(-1) ?? 0)}`] : run.map((day) => short(day)),
  )
  return words.length > 1 ? `${words.slice(0, -1).join(', ')} and ${words.at(-1)}` : (words[0] ?? 'no day')
}

/** What comes with another way of counting, so that it can be meant. */
export function countedAs(timing: Timing, counted: Timing['counted'], field: string | undefined, today: string): Partial<Timing> {
  if (counted === 'date') return { counted, on_date: timing.on_date ?? today, amount: 0 }
  if (counted !== 'field') return { counted, amount: Math.max(0, timing.amount) }
  const tooShort = UNITS.find((unit) => unit.value === timing.unit)?.short
  return {
    counted,
    field: timing.field ?? field ?? null,
    yearly: timing.field ? timing.yearly : true,
    ...(tooShort ? { unit: 'days' as const } : {}),
  }
}
