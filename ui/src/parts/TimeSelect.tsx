import { timeOfDay } from '../app/format'

/** Midnight at the end of a day, in minutes. */
export const DAY_MINUTES = 24 * 60
const HALF_HOURS = Array.from({ length: 48 }, (_, i) => i * 30)

/** A time of the day by half hours, in minutes after midnight; one between two of them stays. */
export function TimeSelect({
  label,
  value,
  whole = false,
  className = 'w-24',
  onChange,
}: {
  label: string
  value: number
  /** Midnight at the end of the day is one of them. */
  whole?: boolean
  className?: string
  onChange: (minutes: number) => void
}) {
  return (
    <select
      aria-label={label}
      className={`select select-sm ${className}`}
      value={value}
      onChange={(event) => onChange(Number(event.target.value))}
    >
      {[...new Set([...HALF_HOURS, ...(whole ? [DAY_MINUTES] : []), value])]
        .sort((one, other) => one - other)
        .map((minutes) => (
          <option key={minutes} value={minutes}>
            {timeOfDay(minutes)}
          </option>
        ))}
    </select>
  )
}

/** From when to when, two times of the day. */
export function HoursSelect({
  from,
  to,
  onChange,
}: {
  from: number
  to: number
  onChange: (hours: { from_minute?: number; to_minute?: number }) => void
}) {
  return (
    <>
      <TimeSelect label="Not before" value={from} whole onChange={(from_minute) => onChange({ from_minute })} />
      <TimeSelect label="Not after" value={to} whole onChange={(to_minute) => onChange({ to_minute })} />
    </>
  )
}
