import { useMutation } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, ask } from '../../../api/client'
import { writeDate } from '../../../app/dates'
import { useSession } from '../../../app/session'
import { useCatalogue } from '../../../app/useCatalogue'
import { useNow } from '../../../app/usePost'
import { DateInput } from '../../../parts/DateInput'
import { MenuList } from '../../../parts/MenuList'
import { Popover } from '../../../parts/Popover'
import { ErrorNote } from '../../../parts/States'
import { HoursSelect } from '../../../parts/TimeSelect'
import { useTyped } from '../../../parts/useTyped'
import {
  between,
  countedAs,
  daysWords,
  EVERY_DAY,
  hours,
  isWeekday,
  soLong,
  type Timing,
  UNITS,
  type Unit,
  WEEKDAYS,
} from './timing'

type Change = (change: Partial<Timing>) => void
const ROW = 'block w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200'

/** When a step goes out, as a sentence: the underlined words open their choices, and it can be typed. */
export function TimingSentence({
  timing,
  before,
  onChange,
}: {
  timing: Timing
  /** What it is counted from: "joining", or "step 3". */
  before: string
  onChange: Change
}) {
  return (
    <div className="bg-[var(--sheet)] border border-base-300 rounded-sm px-2.5 py-1.5 leading-8">
      <CountedWords timing={timing} before={before} onChange={onChange} />,{' '}
      <Popover words={daysWords(timing)} label="On which days">
        {() => <DaysChoice timing={timing} onChange={onChange} />}
      </Popover>
      ,{' '}
      <Popover words={hours(timing) === 'any hour' ? 'at any hour' : between(timing)} label="In which hours">
        {() => <HoursChoice timing={timing} onChange={onChange} />}
      </Popover>{' '}
      <Popover words={timing.zone === 'theirs' ? 'their time' : 'our time'} label="By whose clock">
        {(shut) => (
          <MenuList
            items={[
              { value: 'theirs' as const, words: 'their time' },
              { value: 'ours' as const, words: 'our time' },
            ]}
            onPick={(zone) => {
              onChange({ zone })
              shut()
            }}
          />
        )}
      </Popover>
      .
      <Typed onChange={onChange} />
    </div>
  )
}

/** So long after what. */
function CountedWords({ timing, before, onChange }: { timing: Timing; before: string; onChange: Change }) {
  const { firm } = useSession()
  const now = useNow()
  const { data: catalogue } = useCatalogue()
  const dates = catalogue?.fields.filter((field) => field.type === 'date' && !field.retired) ?? []
  const likely = dates.find((field) => field.key === 'person.birthday') ?? dates[0]
  const count = (counted: Timing['counted'], field?: string) =>
    onChange({ ...countedAs(timing, counted, field ?? likely?.key, now.slice(0, 10)), ...(field ? { field } : {}) })
  const named = dates.find((field) => field.key === timing.field)?.label ?? 'a date that is gone'
  const sameDay = timing.amount === 0
  const from = {
    step: sameDay ? (before === 'joining' ? 'they join' : `as ${before}`) : `after ${before}`,
    joining: sameDay ? 'they join' : 'after joining',
    date: 'on',
    field: timing.amount === 0 ? `on ${named}` : `${timing.amount < 0 ? 'before' : 'after'} ${named}`,
  }[timing.counted]
  return (
    <>
      {timing.counted !== 'date' && !(timing.counted === 'field' && timing.amount === 0) && (
        <>
          <Popover words={sameDay ? 'The same day' : soLong(timing.amount, timing.unit)} label="How long">
            {() => <AmountChoice timing={timing} onChange={onChange} />}
          </Popover>{' '}
        </>
      )}
      <Popover words={from} label="Counted from">
        {(shut) => (
          <ul className="w-72">
            {(before === 'joining' ? (['step'] as const) : (['step', 'joining'] as const)).map((counted) => (
              <li key={counted}>
                <button
                  type="button"
                  className={ROW}
                  onClick={() => {
                    count(counted)
                    shut()
                  }}
                >
                  after {counted === 'step' ? before : 'joining'}
                </button>
              </li>
            ))}
            <li>
              <button
                type="button"
                className={ROW}
                onClick={() => {
                  count('date')
                  shut()
                }}
              >
                on a day of the calendar
              </button>
            </li>
            {dates.map((field) => (
              <li key={field.key}>
                <button
                  type="button"
                  className={ROW}
                  onClick={() => {
                    count('field', field.key)
                    shut()
                  }}
                >
                  around <em>{field.label}</em>
                </button>
              </li>
            ))}
          </ul>
        )}
      </Popover>
      {timing.counted === 'date' && (
        <>
          {' '}
          <Popover words={timing.on_date ? writeDate(timing.on_date, firm.date_order) : '…'} label="Which day">
            {() => (
              <DateInput
                label="The day it goes out"
                value={timing.on_date ?? null}
                className="text-field"
                onSave={(day) => day && onChange({ on_date: day })}
              />
            )}
          </Popover>
        </>
      )}
      {timing.counted === 'field' && (
        <>
          ,{' '}
          <Popover words={timing.yearly ? 'every year' : 'once'} label="Once or every year">
            {(shut) => (
              <MenuList
                items={[
                  { value: true, words: 'every year' },
                  { value: false, words: 'once' },
                ]}
                onPick={(yearly) => {
                  onChange({ yearly })
                  shut()
                }}
              />
            )}
          </Popover>
          {timing.amount === 0 && (
            <>
              {' '}
              <Popover words="(or days around it)" label="How long" className="quiet-word">
                {() => <AmountChoice timing={timing} onChange={onChange} />}
              </Popover>
            </>
          )}
        </>
      )}
    </>
  )
}

/** How long, in which unit; around a date, before or after it. */
export function AmountChoice({ timing, onChange }: { timing: Pick<Timing, 'amount' | 'unit' | 'counted'>; onChange: Change }) {
  const around = timing.counted === 'field'
  const back = around && timing.amount < 0
  const { text, type, leave } = useTyped(String(Math.abs(timing.amount)))
  return (
    <div className="flex gap-1.5 w-fit">
      <input
        type="number"
        min={0}
        aria-label="How many"
        className="text-field !w-18"
        value={text}
        onBlur={leave}
        onChange={(event) => {
          type(event.target.value)
          const typed = Math.abs(Math.trunc(Number(event.target.value) || 0))
          onChange({ amount: back ? -typed : typed })
        }}
      />
      <select
        aria-label="Unit"
        className="select select-sm w-36"
        value={timing.unit}
        onChange={(event) => onChange({ unit: event.target.value as Unit })}
      >
        {UNITS.filter((unit) => !around || !unit.short).map((unit) => (
          <option key={unit.value} value={unit.value}>
            {unit.many}
          </option>
        ))}
      </select>
      {around && (
        <select
          aria-label="Before or after"
          className="select select-sm w-24"
          value={back ? 'before' : 'after'}
          onChange={(event) => onChange({ amount: (Math.abs(timing.amount) || 1) * (event.target.value === 'before' ? -1 : 1) })}
        >
          <option value="before">before</option>
          <option value="after">after</option>
        </select>
      )}
    </div>
  )
}

function DaysChoice({ timing, onChange }: { timing: Timing; onChange: Change }) {
  const meant = timing.days === 'working' ? timing.weekdays.filter(isWeekday) : timing.weekdays
  return (
    <fieldset className="w-64">
      <legend className="sr-only">Days of the week</legend>
      <div className="flex gap-1 mb-2">
        {WEEKDAYS.map(({ day, words }) => {
          const off = timing.days === 'working' && !isWeekday(day)
          const on = timing.weekdays.includes(day) && !off
          return (
            <button
              key={day}
              type="button"
              aria-pressed={on}
              aria-label={words}
              disabled={off || (on && meant.length === 1)}
              className={`btn btn-xs btn-plain w-8 px-0 ${on ? '!border-primary text-primary' : ''}`}
              onClick={() =>
                onChange({ weekdays: on ? timing.weekdays.filter((one) => one !== day) : [...timing.weekdays, day].sort() })
              }
            >
              {words.slice(0, 2)}
            </button>
          )
        })}
      </div>
      <label className="flex gap-2 items-center">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={timing.days === 'any'}
          onChange={(event) => {
            const days = event.target.checked ? 'any' : 'working'
            // A weekend alone holds no working day.
            onChange({ days, ...(timing.weekdays.some(isWeekday) ? {} : { weekdays: EVERY_DAY }) })
          }}
        />
        on holidays and days off too
      </label>
    </fieldset>
  )
}

function HoursChoice({ timing, onChange }: { timing: Timing; onChange: Change }) {
  return (
    <div className="flex gap-1.5 items-center w-fit">
      <HoursSelect from={timing.from_minute} to={timing.to_minute} onChange={onChange} />
      <button type="button" className="btn btn-xs btn-plain" onClick={() => onChange({ from_minute: 0, to_minute: 1440 })}>
        any hour
      </button>
    </div>
  )
}

/** The whole of it as it is typed; what is not mentioned stays. */
function Typed({ onChange }: { onChange: Change }) {
  const [text, setText] = useState('')
  const read = useMutation({
    mutationFn: (words: string) => ask(api.POST('/api/timing', { body: { text: words } })),
    onSuccess: (parts) => {
      onChange(parts)
      setText('')
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (text.trim()) read.mutate(text.trim())
  }
  return (
    <form onSubmit={submit}>
      <input
        className="w-full bg-transparent text-[13px] border-t border-base-300 pt-1 mt-0.5 !outline-none focus:border-primary"
        aria-label="Type when it goes out"
        placeholder="or type it: 2 weeks later, Tue to Thu, 9 to 11"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {read.error && <ErrorNote error={read.error} />}
    </form>
  )
}
