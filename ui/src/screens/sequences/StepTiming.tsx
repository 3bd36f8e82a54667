import type { Shape } from '../../api/client'
import { timeOfDay } from '../../app/format'
import { useCatalogue } from '../../app/useCatalogue'
import { DateInput } from '../../parts/DateInput'
import { useTyped } from '../../parts/useTyped'

type Step = Shape<'Step'>
type Counted = Step['counted']

const COUNTED: { value: Counted; words: (first: boolean) => string }[] = [
  { value: 'step', words: (first) => (first ? 'after joining' : 'after the step before') },
  { value: 'joining', words: () => 'after joining' },
  { value: 'date', words: () => 'on a day' },
  { value: 'field', words: () => 'around a date of theirs' },
]
const UNITS: { value: Step['unit']; words: string; short?: boolean }[] = [
  { value: 'working_days', words: 'working days' },
  { value: 'days', words: 'days' },
  { value: 'weeks', words: 'weeks' },
  { value: 'months', words: 'months' },
  { value: 'hours', words: 'hours', short: true },
  { value: 'minutes', words: 'minutes', short: true },
]
// Monday first; 0 is Sunday.
const WEEKDAYS = [
  { day: 1, words: 'Monday' },
  { day: 2, words: 'Tuesday' },
  { day: 3, words: 'Wednesday' },
  { day: 4, words: 'Thursday' },
  { day: 5, words: 'Friday' },
  { day: 6, words: 'Saturday' },
  { day: 0, words: 'Sunday' },
]
const EVERY_DAY = [0, 1, 2, 3, 4, 5, 6]
const isWeekday = (day: number) => day !== 0 && day !== 6
const TIMES = Array.from({ length: 48 }, (_, i) => i * 30).concat(1440)
const SELECT = 'select select-sm bg-transparent'

/** What comes with another way of counting, so that it can be meant. */
function countedAs(step: Step, counted: Counted, field: string | undefined, today: string): Partial<Step> {
  if (counted === 'date') return { counted, on_date: step.on_date ?? today, amount: 0 }
  if (counted !== 'field') return { counted, amount: Math.max(0, step.amount) }
  const short = UNITS.find((unit) => unit.value === step.unit)?.short
  return {
    counted,
    field: step.field ?? field ?? null,
    yearly: step.field ? step.yearly : true,
    ...(short ? { unit: 'days' } : {}),
  }
}

/** When a step goes out: counted from what, in which hours, on which days. */
export function StepTiming({
  step,
  first,
  today,
  onChange,
}: {
  step: Step
  first: boolean
  today: string
  onChange: (change: Partial<Step>) => void
}) {
  const { data: catalogue } = useCatalogue()
  const dates = catalogue?.fields.filter((field) => field.type === 'date' && !field.retired) ?? []
  const likely = dates.find((field) => field.key === 'person.birthday') ?? dates[0]
  const around = step.counted === 'field'
  const meant = step.days === 'working' ? step.weekdays.filter(isWeekday) : step.weekdays
  const before = around && step.amount < 0
  const { text, type, leave } = useTyped(String(Math.abs(step.amount)))
  return (
    <div className="bg-[var(--sheet)] border border-base-300 rounded-sm px-2 py-2 grid gap-2">
      <div className="flex flex-wrap items-center gap-1.5">
        {step.counted !== 'date' && (
          <>
            <input
              type="number"
              min={0}
              aria-label="How long after"
              className="text-field !w-16"
              value={text}
              onBlur={leave}
              onChange={(event) => {
                type(event.target.value)
                const typed = Math.abs(Math.trunc(Number(event.target.value) || 0))
                onChange({ amount: before ? -typed : typed })
              }}
            />
            <select
              aria-label="Unit"
              className={`${SELECT} w-34`}
              value={step.unit}
              onChange={(event) => onChange({ unit: event.target.value as Step['unit'] })}
            >
              {UNITS.filter((unit) => !around || !unit.short).map((unit) => (
                <option key={unit.value} value={unit.value}>
                  {unit.words}
                </option>
              ))}
            </select>
          </>
        )}
        <select
          aria-label="Counted from"
          className={`${SELECT} w-52`}
          value={step.counted}
          onChange={(event) => onChange(countedAs(step, event.target.value as Counted, likely?.key, today))}
        >
          {COUNTED.filter((one) => !first || one.value !== 'joining').map((one) => (
            <option key={one.value} value={one.value}>
              {one.words(first)}
            </option>
          ))}
        </select>
        {step.counted === 'date' && (
          <DateInput
            label="The day it goes out"
            value={step.on_date ?? null}
            className="text-field !w-36"
            onSave={(day) => day && onChange({ on_date: day })}
          />
        )}
        {around && (
          <>
            <select
              aria-label="Before or after"
              className={`${SELECT} w-24`}
              value={before ? 'before' : 'after'}
              onChange={(event) =>
                onChange({ amount: (Math.abs(step.amount) || 1) * (event.target.value === 'before' ? -1 : 1) })
              }
            >
              <option value="before">before</option>
              <option value="after">after</option>
            </select>
            <select
              aria-label="Which date"
              className={`${SELECT} w-44`}
              value={step.field ?? ''}
              onChange={(event) => onChange({ field: event.target.value })}
            >
              {dates.map((field) => (
                <option key={field.key} value={field.key}>
                  {field.label}
                </option>
              ))}
            </select>
            <label className="flex gap-1.5 items-center">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={step.yearly}
                onChange={(event) => onChange({ yearly: event.target.checked })}
              />
              every year
            </label>
          </>
        )}
      </div>
      <div className="flex flex-wrap items-center gap-1.5">
        {(['from_minute', 'to_minute'] as const).map((name) => (
          <select
            key={name}
            aria-label={name === 'from_minute' ? 'Not before' : 'Not after'}
            className={`${SELECT} w-[4.75rem]`}
            value={step[name]}
            onChange={(event) => onChange({ [name]: Number(event.target.value) })}
          >
            {[...new Set([...TIMES, step[name]])]
              .sort((a, b) => a - b)
              .map((minutes) => (
                <option key={minutes} value={minutes}>
                  {timeOfDay(minutes)}
                </option>
              ))}
          </select>
        ))}
        <select
          aria-label="Whose clock"
          className={`${SELECT} w-28`}
          value={step.zone}
          onChange={(event) => onChange({ zone: event.target.value as Step['zone'] })}
        >
          <option value="theirs">their time</option>
          <option value="ours">our time</option>
        </select>
      </div>
      <fieldset className="flex flex-wrap items-center gap-1">
        <legend className="sr-only">Days of the week</legend>
        {WEEKDAYS.map(({ day, words }) => {
          const off = step.days === 'working' && !isWeekday(day)
          const on = step.weekdays.includes(day) && !off
          return (
            <button
              key={day}
              type="button"
              aria-pressed={on}
              aria-label={words}
              disabled={off || (on && meant.length === 1)}
              className={`btn btn-xs btn-plain w-9 ${on ? '!border-primary text-primary' : ''}`}
              onClick={() =>
                onChange({ weekdays: on ? step.weekdays.filter((one) => one !== day) : [...step.weekdays, day].sort() })
              }
            >
              {words.slice(0, 2)}
            </button>
          )
        })}
        <select
          aria-label="Days off"
          className={`${SELECT} w-40`}
          value={step.days}
          onChange={(event) => {
            const days = event.target.value as Step['days']
            // A weekend alone holds no working day.
            onChange({ days, ...(step.weekdays.some(isWeekday) ? {} : { weekdays: EVERY_DAY }) })
          }}
        >
          <option value="working">working days</option>
          <option value="any">days off too</option>
        </select>
      </fieldset>
    </div>
  )
}
