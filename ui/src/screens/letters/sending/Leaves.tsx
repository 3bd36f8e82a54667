import { Link } from 'react-router'
import { api, ask, type Shape } from '../../../api/client'
import { instant } from '../../../app/dates'
import { moment, timeOfDay } from '../../../app/format'
import { useSession } from '../../../app/session'
import { useNow, usePostMoves } from '../../../app/usePost'
import { DateInput } from '../../../parts/DateInput'
import { MenuList } from '../../../parts/MenuList'
import { Popover } from '../../../parts/Popover'
import { DAY_MINUTES, HoursSelect, TimeSelect } from '../../../parts/TimeSelect'
import { OpensPeople } from '../../people/behind/OpensPeople'
import { nextWorkday } from '../../sequences/start/StartDialog'
import type { LetterStep } from './oneLetter'

type Timing = Partial<Shape<'StepInput'>>

/** At once, whatever the hour. */
export const NOW: Timing = {
  counted: 'joining',
  amount: 0,
  unit: 'minutes',
  days: 'any',
  from_minute: 0,
  to_minute: DAY_MINUTES,
  zone: 'ours',
}
/** At once, but only in the hours in which people read. */
const IN_HOURS: Timing = { ...NOW, days: 'working', from_minute: 9 * 60, to_minute: 17 * 60, zone: 'theirs' }

type Way = 'now' | 'time' | 'hours' | 'other'

/** Which of the ways to leave a timing is; the plan knows more of them. */
export function wayOf(step: Pick<LetterStep, 'counted' | 'amount' | 'from_minute' | 'to_minute'>): Way {
  if (step.counted === 'date' && step.from_minute === step.to_minute) return 'time'
  if (!['joining', 'step'].includes(step.counted) || step.amount !== 0) return 'other'
  return step.from_minute === 0 && step.to_minute === DAY_MINUTES ? 'now' : 'hours'
}

function words(step: LetterStep, timeZone: string): string {
  switch (wayOf(step)) {
    case 'now':
      return 'now'
    case 'time':
      return step.on_date ? moment(instant(step.on_date, step.from_minute, timeZone), timeZone) : 'at a time'
    case 'hours':
      return `${timeOfDay(step.from_minute)} to ${timeOfDay(step.to_minute)}${step.zone === 'theirs' ? ', their time' : ''}`
    default:
      return step.goes_out
  }
}

function Hours({ step, onChange }: { step: LetterStep; onChange: (timing: Timing) => void }) {
  return (
    <div className="grid gap-2 px-1.5 pb-1.5">
      <div className="flex gap-1.5 items-center">
        <HoursSelect from={step.from_minute} to={step.to_minute} onChange={onChange} />
      </div>
      <label className="flex gap-2 items-center">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={step.zone === 'theirs'}
          onChange={(event) => onChange({ zone: event.target.checked ? 'theirs' : 'ours' })}
        />
        by their clock
      </label>
      <label className="flex gap-2 items-center">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={step.days === 'any'}
          onChange={(event) => onChange({ days: event.target.checked ? 'any' : 'working' })}
        />
        on days off too
      </label>
    </div>
  )
}

function AtATime({ step, timeZone, onChange }: { step: LetterStep; timeZone: string; onChange: (timing: Timing) => void }) {
  return (
    <div className="flex gap-1.5 px-1.5 pb-1.5">
      <DateInput
        label="The day it leaves"
        value={step.on_date ?? null}
        className="text-field !w-36"
        onSave={(on_date) => on_date && onChange({ on_date })}
      />
      <TimeSelect
        label="The hour it leaves"
        value={step.from_minute}
        onChange={(minute) => onChange({ from_minute: minute, to_minute: minute })}
      />
      <span className="muted text-xs self-center">{timeZone.split('/').at(-1)?.replace('_', ' ')}</span>
    </div>
  )
}

/** When it leaves: now, at a time, or in hours of the day. */
export function Leaves({ step, onChange }: { step: LetterStep; onChange: (timing: Timing) => void }) {
  const { firm } = useSession()
  const now = useNow()
  const way = wayOf(step)
  const pick = (next: Way) => {
    if (next === way) return
    if (next === 'now') onChange(NOW)
    if (next === 'hours') onChange(IN_HOURS)
    if (next === 'time')
      onChange({
        ...NOW,
        counted: 'date',
        on_date: nextWorkday(now, firm.time_zone),
        from_minute: 9 * 60,
        to_minute: 9 * 60,
      })
  }
  return (
    <Popover words={words(step, firm.time_zone)} label="When it leaves">
      {(shut) => (
        <div className="w-72">
          <MenuList
            className="w-full mb-1"
            chosen={way}
            items={[
              { value: 'now' as Way, words: 'Now' },
              { value: 'time' as Way, words: 'At a time' },
              { value: 'hours' as Way, words: 'In hours of the day' },
            ]}
            onPick={(next) => {
              pick(next)
              if (next === 'now') shut()
            }}
          />
          {way === 'time' && <AtATime step={step} timeZone={firm.time_zone} onChange={onChange} />}
          {way === 'hours' && <Hours step={step} onChange={onChange} />}
          {way === 'other' && <p className="muted text-xs px-1.5">{step.goes_out}: as the plan says.</p>}
        </div>
      )}
    </Popover>
  )
}

/** Those whose letter leaves later. */
function Kept({ sequenceId, keep, count }: { sequenceId: number; keep: Shape<'Ready'>['keeps'][number]; count: number }) {
  const keeps = keep.code === 'away' ? 'away' : 'full'
  return (
    <OpensPeople
      title={keep.words}
      count={count}
      queryKey={['ready', sequenceId, 'keeps', keeps]}
      load={(cursor) =>
        ask(api.GET('/api/sequences/{id}/ready/people', { params: { path: { id: sequenceId }, query: { keeps, cursor } } }))
      }
    >
      Who
    </OpensPeople>
  )
}

/** What has letters leave later than now, and the way around it. */
export function Keeps({ sequenceId, keeps }: { sequenceId: number; keeps: Shape<'Ready'>['keeps'] }) {
  const { release } = usePostMoves()
  return keeps.map((keep) => (
    <p key={keep.code} className="bg-[var(--personal)] px-3 py-1.5 mb-2 flex gap-3 items-baseline">
      <span className="grow">{keep.words}</span>
      {keep.count && <Kept sequenceId={sequenceId} keep={keep} count={keep.count} />}
      {keep.code === 'held' && (
        <button type="button" className="btn btn-xs btn-plain" onClick={() => release.mutate()}>
          Release all post
        </button>
      )}
      {keep.mailbox_id && (
        <Link to="/settings" className="text-primary font-semibold whitespace-nowrap">
          Change its {keep.code === 'hours' ? 'hours' : keep.code === 'rests' ? 'mailbox' : 'limits'}
        </Link>
      )}
    </p>
  ))
}
