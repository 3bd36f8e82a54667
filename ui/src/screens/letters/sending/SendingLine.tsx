import type { ReactNode } from 'react'
import { Link } from 'react-router'
import type { Shape } from '../../../api/client'
import { clock, day, moment, number, plural } from '../../../app/format'
import { useSession } from '../../../app/session'
import { useCatalogue } from '../../../app/useCatalogue'
import { useNow } from '../../../app/usePost'
import { Popover } from '../../../parts/Popover'
import { FigureBehind } from '../../results/FigureBehind'
import { SenderField } from '../../sequences/plan/SenderField'
import type { Change } from '../../sequences/useChanges'
import { Leaves } from './Leaves'
import type { LetterStep } from './oneLetter'
import { Reach } from './Recipients'

function Said({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="min-w-0">
      <span className="field-label !mb-0">{label}</span>
      <span className="flex items-center whitespace-nowrap min-h-7">{children}</span>
    </div>
  )
}

/** "the first at 16:41, the last at 17:34", with the day where it is not today. */
export function span(first: string, last: string, now: string, timeZone: string): string {
  const said = (at: string) => (day(at, timeZone) === day(now, timeZone) ? `at ${clock(at, timeZone)}` : moment(at, timeZone))
  return first === last ? said(first) : `the first ${said(first)}, the last ${said(last)}`
}

/** When the first and the last leave, said beside the way it leaves. */
function FirstAndLast({ ready }: { ready: Shape<'Ready'> | undefined }) {
  const { firm } = useSession()
  const now = useNow()
  if (!ready?.first_at || !ready.last_at) return null
  return <span className="muted text-[13px] ml-2">{span(ready.first_at, ready.last_at, now, firm.time_zone)}</span>
}

/** Where the answers go, if that is not where the letter comes from. */
function AnswersTo({ sender }: { sender: Shape<'Sender'> }) {
  const { data: catalogue } = useCatalogue()
  const own = sender.kind === 'mailbox' ? sender.mailbox_id : null
  const box = catalogue?.mailboxes.find((one) => one.id === own)
  return box?.reply_to ? <span className="muted text-[13px] ml-2">answers to {box.reply_to}</span> : null
}

function Figure({
  sequence,
  name,
  count,
  children,
}: {
  sequence: Shape<'Sequence'>
  name: 'sent' | 'due'
  count: number
  children: ReactNode
}) {
  return (
    <FigureBehind sequenceId={sequence.id} figure={{ name, count }} of={sequence.name}>
      {children}
    </FigureBehind>
  )
}

/** To whom, from whom, when, and what then: the letter in one line above the paper. */
export function SendingLine({
  sequence,
  step,
  draft,
  ready,
  onTo,
  onTiming,
  onChange,
  onFollowUp,
}: {
  sequence: Shape<'Sequence'>
  step: LetterStep
  /** Whether it can still be changed. */
  draft: boolean
  ready: Shape<'Ready'> | undefined
  onTo: () => void
  onTiming: (timing: Partial<Shape<'StepInput'>>) => void
  onChange: (change: Change) => void
  onFollowUp: () => void
}) {
  const { sent, due } = step.counts
  return (
    <div className="flex flex-wrap items-start gap-x-5 gap-y-2 pb-3 mb-4 border-b border-base-300">
      <Said label="To">
        {draft ? (
          <>
            <button type="button" aria-label="To whom" className="word max-w-72 truncate" onClick={onTo}>
              {sequence.audience_said ? sequence.audience_words : 'choose whom'}
            </button>
            {sequence.audience_said && (
              <span className="ml-2">
                <Reach audience={sequence.audience} sieve={sequence.sieve} />
              </span>
            )}
          </>
        ) : (
          <Link to={`/sequences/${sequence.id}/members`} className="font-semibold hover:underline">
            {plural(sequence.sieve.would_get_it, 'person', 'people')}
          </Link>
        )}
      </Said>
      <Said label="From">
        {draft ? (
          <>
            <SenderField sequence={sequence} className="word" onChange={onChange} />
            <AnswersTo sender={sequence.sender} />
          </>
        ) : (
          <strong className="font-semibold">{sequence.sender_words}</strong>
        )}
      </Said>
      <Said label="Leaves">
        {draft ? (
          <>
            <Leaves step={step} onChange={onTiming} />
            <FirstAndLast ready={ready} />
          </>
        ) : sequence.state === 'draft' ? (
          <strong className="font-semibold">in a moment</strong>
        ) : (
          <>
            <Figure sequence={sequence} name="sent" count={sent}>
              {number(sent)} sent
            </Figure>
            {due > 0 && (
              <span className="ml-2">
                <Figure sequence={sequence} name="due" count={due}>
                  {number(due)} to come
                </Figure>
              </span>
            )}
          </>
        )}
      </Said>
      <Said label="Then">
        <Popover words="nothing follows" label="What follows">
          {() => <p className="w-64 p-1 whitespace-normal">This letter is all they get. Answers are read under Replies.</p>}
        </Popover>
        {draft && (
          <button type="button" className="quiet-word ml-3 underline underline-offset-2" onClick={onFollowUp}>
            Add a follow-up
          </button>
        )}
      </Said>
    </div>
  )
}
