import { useState } from 'react'
import type { Shape } from '../../../api/client'
import { instant } from '../../../app/dates'
import { day, plural } from '../../../app/format'
import { useSession } from '../../../app/session'
import { DateInput } from '../../../parts/DateInput'
import { Popover } from '../../../parts/Popover'
import { PeopleCount } from '../../people/behind/PeopleCount'
import { useSieve } from '../../people/table/usePeople'
import { ConditionDialog } from '../steps/ConditionDialog'
import type { Change } from '../useChanges'

type Sequence = Shape<'Sequence'>
const HAPPENS = { replied: 'reply', converted: 'conversion' } as const
const KINDS = ['replied', 'converted'] as const

/** What takes people out: what they do, what becomes true of them, and the day it is over. */
export function WhoLeaves({
  sequence,
  editable,
  onChange,
}: {
  sequence: Sequence
  editable: boolean
  onChange: (change: Change) => void
}) {
  const { firm } = useSession()
  const [asking, setAsking] = useState(false)
  const { leave_on, leave_if, ends_at } = sequence
  const happens = KINDS.filter((kind) => leave_on.includes(kind)).map((kind) => HAPPENS[kind])
  const words = happens.join(', ') || 'nothing but unsubscribing'
  const condition = leave_if && (sequence.leave_if_words ?? 'a condition')
  return (
    <span>
      <span className="muted">Leave on </span>
      {!editable ? (
        <strong className="font-semibold">{words}</strong>
      ) : (
        <Popover
          words={words}
          label="Leave on"
          className="font-semibold border-b border-dashed border-primary cursor-pointer text-left"
        >
          {() => (
            <div className="w-72">
              {KINDS.map((kind) => (
                <label key={kind} className="flex gap-2 items-center p-1.5">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-xs"
                    checked={leave_on.includes(kind)}
                    onChange={(event) =>
                      onChange({
                        leave_on: KINDS.filter((one) => (one === kind ? event.target.checked : leave_on.includes(one))),
                      })
                    }
                  />
                  {HAPPENS[kind]}
                </label>
              ))}
              <p className="p-1.5">
                and as soon as{' '}
                <button type="button" className="word text-left" onClick={() => setAsking(true)}>
                  {condition ?? 'a condition'}
                </button>
                {condition ? ' holds' : ' of yours holds'}
                {leave_if && (
                  <>
                    . <HoldsNow condition={leave_if} />{' '}
                    <button type="button" className="quiet-word" onClick={() => onChange({ leave_if: null })}>
                      no such condition
                    </button>
                  </>
                )}
              </p>
              <p className="p-1.5 flex gap-2 items-center">
                and everybody at the end of
                <DateInput
                  label="The day it is over"
                  className="text-field !w-32"
                  placeholder="no day"
                  value={ends_at ? lastDay(ends_at, firm.time_zone) : null}
                  onSave={(date) => onChange({ ends_at: date ? instant(date, MIDNIGHT, firm.time_zone) : null })}
                />
              </p>
              <p className="muted text-xs p-1.5">Unsubscribing and a failed address always end it.</p>
            </div>
          )}
        </Popover>
      )}
      {condition && <span className="muted"> or when {condition}</span>}
      {ends_at && <span className="muted"> or at the end of {day(before(ends_at), firm.time_zone)}</span>}
      {asking && (
        <ConditionDialog
          title="Of whom is it over? They leave as soon as this holds, a purchase for instance."
          condition={leave_if ?? null}
          keep="They leave then"
          onKeep={(next) => onChange({ leave_if: next })}
          onClose={() => setAsking(false)}
        />
      )}
    </span>
  )
}

/** The end of a day is the beginning of the next. */
const MIDNIGHT = 24 * 60
const before = (at: string) => new Date(Date.parse(at) - 1).toISOString()

function lastDay(at: string, timeZone: string): string {
  return new Intl.DateTimeFormat('en-CA', { timeZone }).format(new Date(before(at)))
}

/** Of how many people it is true already. */
function HoldsNow({ condition }: { condition: Shape<'Condition'> }) {
  const { data } = useSieve({ condition })
  if (!data) return null
  return (
    <span className="muted">
      It holds of{' '}
      <PeopleCount title="It holds of them now" count={data.matching} condition={condition}>
        {plural(data.matching, 'person', 'people')}
      </PeopleCount>{' '}
      in the records now.
    </span>
  )
}
