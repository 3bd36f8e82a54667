const LOCALE = 'en-GB'

/** "Mon 18 May" in a zone. */
export function day(at: string, timeZone: string): string {
  const year = present !== null && yearOf(at, timeZone) !== yearOf(present, timeZone) ? 'numeric' : undefined
  return new Intl.DateTimeFormat(LOCALE, { weekday: 'short', day: 'numeric', month: 'short', year, timeZone })
    .format(new Date(at))
    .replace(',', '')
}

/** The clock in use as it was last read: the year that it shows goes without saying. */
let present: string | null = null
export function itIs(now: string | null | undefined) {
  if (now) present = now
}

const yearOf = (at: string, timeZone: string) =>
  new Intl.DateTimeFormat(LOCALE, { year: 'numeric', timeZone }).format(new Date(at))

/** "9:24" in a zone. */
export function clock(at: string, timeZone: string): string {
  return new Intl.DateTimeFormat(LOCALE, { hour: 'numeric', minute: '2-digit', hour12: false, timeZone })
    .format(new Date(at))
    .replace(/^0(\d)/, '$1')
}

/** "Mon 18 May, 9:24" in a zone. */
export function moment(at: string, timeZone: string): string {
  return `${day(at, timeZone)}, ${clock(at, timeZone)}`
}

/** "14 Feb", with the year when it is not the present one. */
export function shortDate(at: string, now: string): string {
  const date = new Date(at)
  const sameYear = date.getUTCFullYear() === new Date(now).getUTCFullYear()
  return new Intl.DateTimeFormat(LOCALE, { day: 'numeric', month: 'short', year: sameYear ? undefined : 'numeric' }).format(date)
}

/** "£1,840" from pence. */
export function money(pence: number): string {
  return new Intl.NumberFormat(LOCALE, {
    style: 'currency',
    currency: 'GBP',
    maximumFractionDigits: pence % 100 === 0 ? 0 : 2,
  }).format(pence / 100)
}

/** "1,204". */
export function number(count: number): string {
  return new Intl.NumberFormat(LOCALE).format(count)
}

/** "1 letter", "12 letters". */
export function plural(count: number, one: string, many = `${one}s`): string {
  return `${number(count)} ${count === 1 ? one : many}`
}

/** "48 %" from a share; below one percent with a decimal. */
export function percent(share: number): string {
  const points = share * 100
  return `${points > 0 && points < 1 ? points.toFixed(1) : Math.round(points)} %`
}

/** 565 minutes after midnight are "9:25". */
export function timeOfDay(minutes: number): string {
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`
}

/** A size as people say it: "42 kB", "1.3 MB". */
export function bytes(count: number): string {
  return count < 1024 * 1024 ? `${Math.max(1, Math.round(count / 1024))} kB` : `${(count / 1024 / 1024).toFixed(1)} MB`
}
