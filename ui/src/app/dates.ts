/** In which order a firm writes its days. */
export type DateOrder = 'dmy' | 'mdy' | 'ymd'

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
/** A day whose year nobody knows is kept in this one (Core::Fields::Yearless). */
const YEARLESS = 1600
/** A year of two digits up to here is of this century, as in files. */
const PIVOT = 50

/** "12 May 1980", or "May 12, 1980", as the firm writes it; "12 May" where the year is not known. */
export function writeDate(iso: string, order: DateOrder): string {
  const [year, month, day] = iso.split('-').map(Number)
  if (!year || !month || !day) return iso
  const name = MONTHS[month - 1] ?? ''
  if (year === YEARLESS) return order === 'dmy' ? `${day} ${name}` : `${name} ${day}`
  if (order === 'ymd') return iso
  return order === 'dmy' ? `${day} ${name} ${year}` : `${name} ${day}, ${year}`
}

/** What somebody typed as ISO 8601; null when it is no day, or could be two. */
export function readDate(typed: string, order: DateOrder): string | null {
  const text = typed.trim()
  const named = text.match(/^(?:(\d{1,2})\.? +([a-z]{3,})\.?|([a-z]{3,})\.? +(\d{1,2})),?(?: +(\d{4}))?$/i)
  if (named) {
    const month = MONTHS.findIndex((name) => (named[2] ?? named[3] ?? '').toLowerCase().startsWith(name.toLowerCase())) + 1
    return valid(Number(named[5] ?? YEARLESS), month, Number(named[1] ?? named[4]))
  }
  const parts = text.match(/^(\d{1,4})[./ -](\d{1,2})(?:[./ -](\d{1,4}))?\.?$/)
  if (!parts) return null
  const [first = '', second = '', third] = parts.slice(1)
  if (first.length === 4) return third === undefined ? null : valid(Number(first), Number(second), Number(third))
  if (third === undefined)
    return order === 'dmy' ? valid(YEARLESS, Number(second), Number(first)) : valid(YEARLESS, Number(first), Number(second))
  if (order === 'ymd') return null
  const year = third.length > 2 ? Number(third) : Number(third) + (Number(third) < PIVOT ? 2000 : 1900)
  return order === 'dmy' ? valid(year, Number(second), Number(first)) : valid(year, Number(first), Number(second))
}

function valid(year: number, month: number, day: number): string | null {
  const date = new Date(Date.UTC(year, month - 1, day))
  if (date.getUTCFullYear() !== year || date.getUTCMonth() !== month - 1 || date.getUTCDate() !== day) return null
  return `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`
}

/** The instant of a day and minute by the clock of a place; what does not happen there (clocks go forward) is an hour later. */
export function instant(date: string, minute: number, timeZone: string): string {
  const wall = new Date(`${date}T00:00:00Z`).getTime() + minute * 60_000
  const shown = (at: number) => {
    const parts = new Intl.DateTimeFormat('en-GB', { timeZone, dateStyle: 'short', timeStyle: 'short' }).formatToParts(at)
    const of = (type: string) => Number(parts.find((part) => part.type === type)?.value)
    return Date.UTC(of('year'), of('month') - 1, of('day'), of('hour'), of('minute'))
  }
  const first = wall - (shown(wall) - wall)
  return new Date(first - (shown(first) - wall)).toISOString()
}
