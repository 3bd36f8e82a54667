import { useQuery } from '@tanstack/react-query'
import { X } from 'lucide-react'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../../api/client'
import { instant } from '../../../app/dates'
import { moment, number, plural } from '../../../app/format'
import { useSession } from '../../../app/session'
import { useNow } from '../../../app/usePost'
import { DateInput } from '../../../parts/DateInput'
import { Modal } from '../../../parts/Modal'
import { Popover } from '../../../parts/Popover'
import { ErrorNote, Loading } from '../../../parts/States'
import { TimeSelect } from '../../../parts/TimeSelect'
import { OpensPeople } from '../../people/behind/OpensPeople'
import { flat } from '../plan/plan'
import type { ReadBack } from '../useSequence'
import { ByRules } from './ByRules'
import { NeverReached } from './NeverReached'

/** What this plan does when somebody answers, and what every plan does. */
export function whoLeaves(leaveOn: readonly string[]): string {
  const always = 'Whoever unsubscribes or cannot be reached gets nothing more.'
  if (leaveOn.includes('replied')) return 'Whoever replies, unsubscribes or cannot be reached gets nothing more.'
  return `Whoever replies goes on getting the letters after it: this plan does not stop on an answer. ${always}`
}

/** What the plan does besides the letters that everybody gets who does nothing, in words. */
export function beside(steps: Shape<'Step'>[]): string[] {
  const all = flat(steps).map(({ step }) => step)
  const of = (kind: Shape<'Step'>['kind']) => all.filter((step) => step.kind === kind)
  const ways = of('fork').reduce((sum, fork) => sum + (fork.lanes ?? []).length, 0)
  const within = flat(steps).filter(({ step, depth }) => step.kind === 'letter' && depth > 0).length
  const tasks = of('task')
  const look = all.filter((step) => step.look_first)
  return [
    ways > 0 &&
      `What people do decides which of ${ways} lanes they go: the numbers are those for whoever does nothing` +
        (within > 0 ? `, and ${plural(within, 'letter')} of the plan may come to others instead.` : '.'),
    tasks.length > 0 &&
      `${plural(tasks.length, 'step is a task', 'steps are tasks')} for colleagues: ${tasks.map((step) => step.words).join('; ')}.`,
    of('change').length > 0 &&
      `It changes records by itself: ${of('change')
        .map((step) => step.headline)
        .join('; ')}.`,
    of('hand_over').length > 0 &&
      `${of('hand_over')
        .map((step) => step.headline)
        .join('; ')}.`,
    look.length > 0 && `${look.map((step) => `“${step.headline}”`).join(', ')}: each waits until somebody has looked at it.`,
  ].filter((words) => words !== false)
}

/** What the button says that starts it. */
export function startWords({ letters, waiting }: { letters: number; waiting: number }): string {
  if (letters === 0) return 'Start it now'
  return waiting > 0 ? `Start the other ${plural(letters - waiting, 'letter')} now` : `Start ${plural(letters, 'letter')} now`
}

const DAY_MS = 86_400_000

/** The day after this one on which a firm works, as far as weekends tell. */
export function nextWorkday(now: string, timeZone: string): string {
  const today = new Intl.DateTimeFormat('en-CA', { timeZone }).format(new Date(now))
  let at = Date.parse(`${today}T00:00:00Z`)
  do at += DAY_MS
  while ([0, 6].includes(new Date(at).getUTCDay()))
  return new Date(at).toISOString().slice(0, 10)
}

/** A time of the firm's clock at which it is to start; the next morning unless one says otherwise. */
function AtATime({ timeZone, onStart }: { timeZone: string; onStart: (at: string) => void }) {
  const now = useNow()
  const [day, setDay] = useState<string | null>(() => nextWorkday(now, timeZone))
  const [minute, setMinute] = useState(9 * 60)
  return (
    <Popover words="At a time…" label="Start at a time" className="btn btn-sm btn-plain">
      {(shut) => (
        <div className="w-64 grid gap-2">
          <DateInput label="The day it starts" value={day} className="text-field" onSave={setDay} />
          <TimeSelect label="The hour it starts" value={minute} className="w-full" onChange={setMinute} />
          <p className="muted text-xs">It is looked at once more then. If something is missing it does not start, and says so.</p>
          <button
            type="button"
            className="btn btn-sm btn-primary"
            disabled={!day || instant(day, minute, timeZone) <= now}
            onClick={() => {
              if (day) onStart(instant(day, minute, timeZone))
              shut()
            }}
          >
            Start it then
          </button>
        </div>
      )}
    </Popover>
  )
}

/** The ready check: what is missing, or the numbers read back, and only then the start. */
export function StartDialog({
  sequence,
  start,
  onClose,
}: {
  sequence: Shape<'Sequence'>
  start: { mutate: (readBack: ReadBack & { at?: string }) => void; isPending: boolean; error: unknown }
  onClose: () => void
}) {
  const { firm } = useSession()
  const { data, error } = useQuery({
    queryKey: ['ready', sequence.id],
    queryFn: () => ask(api.GET('/api/sequences/{id}/ready', { params: { path: { id: sequence.id } } })),
    staleTime: 0,
  })
  return (
    <Modal title={data?.ready === false ? 'Not ready yet' : `Start “${sequence.name}”?`} onClose={onClose}>
      {(error || start.error != null) && <ErrorNote error={error ?? start.error} />}
      {!data && !error && <Loading lines={4} />}
      {data && !data.ready && (
        <ul className="mb-2">
          {data.remarks.map((remark) => (
            <li key={`${remark.code}${remark.step_id}`} className="flex gap-3 py-2 border-b border-base-300/60">
              <span className="text-error font-bold w-3 shrink-0" aria-hidden="true">
                {remark.blocking && <X className="mark" aria-hidden />}
              </span>
              <span className="grow">
                {remark.words}
                <NeverReached sequenceId={sequence.id} remark={remark} />
              </span>
              {remark.code === 'gaps' && (
                <Link to={`/stack/${remark.step_id}?gaps`} className="text-primary font-semibold whitespace-nowrap">
                  Fill gaps
                </Link>
              )}
              {remark.step_id && remark.code !== 'gaps' && (
                <Link
                  to={`/sequences/${sequence.id}?step=${remark.step_id}`}
                  className="text-primary font-semibold whitespace-nowrap"
                  onClick={onClose}
                >
                  Go there
                </Link>
              )}
            </li>
          ))}
        </ul>
      )}
      {data?.ready && !data.first_at && <p className="font-serif text-lg leading-7 mb-3">Nobody is in it from the start.</p>}
      {data?.ready && data.joining > 0 && (
        <p className="font-serif text-lg leading-7 mb-3">
          <OpensPeople
            title={`Join “${sequence.name}” at once`}
            count={data.joining}
            queryKey={['ready', sequence.id, 'joining']}
            load={(cursor) =>
              ask(
                api.GET('/api/sequences/{id}/ready/people', {
                  params: { path: { id: sequence.id }, query: { joining: true, cursor } },
                }),
              )
            }
          >
            {plural(data.joining, 'person', 'people')}
          </OpensPeople>{' '}
          of whom its rules are true already {data.joining === 1 ? 'joins' : 'join'} at once.
        </p>
      )}
      {data?.ready && data.first_at && data.last_at && (
        <div className="font-serif text-lg leading-7">
          <p className="mb-3">
            <strong className="font-semibold">{plural(data.letters, 'letter')}</strong> to{' '}
            <OpensPeople
              title={`Would get “${sequence.name}”`}
              count={data.people}
              queryKey={['ready', sequence.id, 'people']}
              load={(cursor) =>
                ask(
                  api.POST('/api/audience/people', {
                    body: { audience: sequence.audience, part: 'would_get_it', sequence_id: sequence.id, cursor },
                  }),
                )
              }
            >
              {plural(data.people, 'person', 'people')}
            </OpensPeople>
            , the first on <strong className="font-semibold">{moment(data.first_at, firm.time_zone)}</strong>, the last on{' '}
            <strong className="font-semibold">{moment(data.last_at, firm.time_zone)}</strong> if nobody answers.
          </p>
          {data.remarks.map((remark) => (
            <p key={`${remark.code}${remark.step_id}`} className="font-sans text-sm bg-[var(--gap)] px-3 py-2 mb-3">
              {remark.words}
              <NeverReached sequenceId={sequence.id} remark={remark} />
              {remark.code === 'gaps' && (
                <Link to={`/stack/${remark.step_id}?gaps`} className="text-primary font-semibold whitespace-nowrap ml-2">
                  Fill gaps
                </Link>
              )}
            </p>
          ))}
          {data.waiting > 0 && (
            <p className="font-sans text-sm mb-3">
              {plural(data.waiting, 'letter waits', 'letters wait')} for that: those with a gap, shown under Today from their time
              on, and what comes after them. The other {number(data.letters - data.waiting)} go.
            </p>
          )}
          <ul className="font-sans text-sm mb-3">
            {data.mailboxes.map((box) => (
              <li key={box.address} className="flex justify-between border-b border-base-300/60 py-1">
                <span>{box.address}</span>
                <OpensPeople
                  title={box.address ? `From ${box.address}` : 'With no mailbox to come from'}
                  count={box.people}
                  queryKey={['ready', sequence.id, 'from', box.id]}
                  load={(cursor) =>
                    ask(
                      api.GET('/api/sequences/{id}/ready/people', {
                        params: { path: { id: sequence.id }, query: { mailbox_id: box.id ?? undefined, cursor } },
                      }),
                    )
                  }
                >
                  {plural(box.people, 'person', 'people')}
                </OpensPeople>
              </li>
            ))}
          </ul>
          {beside(sequence.steps).map((words) => (
            <p key={words} className="font-sans text-sm mb-1">
              {words}
            </p>
          ))}
          <p className="font-sans text-sm muted mt-2">{whoLeaves(sequence.leave_on)} You can pause or stop it at any time.</p>
        </div>
      )}
      {data?.ready && <ByRules sequence={sequence} />}
      <div className="mt-5 flex justify-end gap-2">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          {data?.ready ? 'Not now' : 'Close'}
        </button>
        {data?.ready && (
          <>
            <AtATime timeZone={firm.time_zone} onStart={(at) => start.mutate({ ...data, at })} />
            <button
              type="button"
              className="btn btn-sm btn-primary"
              disabled={start.isPending}
              onClick={() => start.mutate(data)}
            >
              {startWords(data)}
            </button>
          </>
        )}
      </div>
    </Modal>
  )
}
