import { type ReactNode, useState } from 'react'
import { useNavigate } from 'react-router'
import type { Shape } from '../../../api/client'
import { number, plural } from '../../../app/format'
import { useKeys } from '../../../app/keys'
import { StateBadge } from '../../../parts/Header'
import * as edit from '../../sequences/plan/edit'
import { stepInput } from '../../sequences/plan/plan'
import type { useSequence } from '../../sequences/useSequence'
import { LetterDesk } from '../desk/LetterDesk'
import { BeginWith } from './BeginWith'
import { Gaps } from './Gaps'
import { Keeps } from './Leaves'
import type { LetterStep } from './oneLetter'
import { Moved, ToWhom } from './Recipients'
import { SendDialog } from './SendDialog'
import { SendingLine } from './SendingLine'
import { useLookingOn } from './useLookingOn'

type Props = {
  sequence: Shape<'Sequence'>
  step: LetterStep
  moves: Pick<ReturnType<typeof useSequence>, 'change' | 'start'>
  /** What can be done with one that runs. */
  actions: ReactNode
  /** Above the paper: what went wrong, and what the sequence waits for. */
  notices: ReactNode
  tabs: ReactNode
}

/** A sequence of one letter, at the desk where it is written: to whom, from whom, when, and what sends it. */
export function SequenceDesk({ sequence, step, moves, actions, notices, tabs }: Props) {
  const { change, start } = moves
  const navigate = useNavigate()
  const sent = sequence.undo_seconds != null && sequence.state === 'draft'
  const draft = sequence.state === 'draft' && !sent
  const [choosing, setChoosing] = useState(false)
  const [asking, setAsking] = useState(false)
  const [beginning, setBeginning] = useState(false)
  const put = (input: Partial<Shape<'StepInput'>>) => change.mutate({ steps: [{ ...stepInput(step), ...input }] })
  // What is not saved would not be in it; the page says above the paper why it is not.
  const send = async (saved: () => Promise<boolean>) => setAsking(await saved())
  const followUp = () => {
    const now = sequence.steps.map(stepInput)
    const place = { branch: null, at: 1 }
    change.made({ steps: edit.put(now, place, edit.fresh('letter', now, place)) }).then(
      (saved) => navigate(`/sequences/${sequence.id}/plan?step=${saved.steps[1]?.id}`),
      // The page says above the paper what went wrong.
      () => undefined,
    )
  }
  return (
    <>
      <LetterDesk
        key={step.letter_id}
        id={step.letter_id}
        around={{
          sequenceId: sequence.id,
          over: { to: '/sequences', words: 'Sequences' },
          writes: draft,
          locked: sent,
          tools: draft && (
            <button type="button" className="btn btn-xs btn-plain" onClick={() => setBeginning(true)}>
              Begin with…
            </button>
          ),
          state: sent ? (
            <span className="chip bg-[var(--merged)] text-primary">Sent</span>
          ) : (
            <StateBadge state={sequence.state} />
          ),
          actions: (saved) => (
            <>
              {actions}
              {draft && <Send sequence={sequence} onSend={() => send(saved)} />}
            </>
          ),
          onLetter: draft ? (letter_id) => put({ letter_id }) : undefined,
          line: (settled) => (
            <>
              {tabs}
              {notices}
              {draft && <Moved sequence={sequence} />}
              <Line
                sequence={sequence}
                step={step}
                draft={draft}
                settled={settled}
                onTo={() => setChoosing(!choosing)}
                onTiming={put}
                onChange={change.mutate}
                onFollowUp={followUp}
              />
              {choosing && draft && (
                <ToWhom
                  audience={sequence.audience}
                  said={sequence.audience_said}
                  onChange={(audience) => change.mutate({ audience })}
                  onDone={() => setChoosing(false)}
                />
              )}
            </>
          ),
          below: (settled, saved) =>
            draft &&
            sequence.audience_said && (
              <Before sequence={sequence} step={step} settled={settled} onSendOthers={() => send(saved)} />
            ),
        }}
      />
      {asking && draft && <SendDialog sequence={sequence} send={start} onClose={() => setAsking(false)} />}
      {beginning && (
        <BeginWith
          letterId={step.letter_id}
          onLetter={(letter_id) => change.made({ steps: [{ ...stepInput(step), letter_id }] })}
          onClose={() => setBeginning(false)}
        />
      )}
    </>
  )
}

/** Opens the reading back. */
function Send({ sequence, onSend }: { sequence: Shape<'Sequence'>; onSend: () => void }) {
  useKeys([{ key: 'ctrl+enter', words: 'Send…', whileTyping: true, run: onSend }])
  const people = sequence.sieve.would_get_it
  return (
    <button type="button" className="btn btn-sm btn-primary" title="Ctrl and Enter" onClick={onSend}>
      {sequence.audience_said ? `Send to ${number(people)}…` : 'Send…'}
    </button>
  )
}

function Line({ settled, ...line }: Omit<Parameters<typeof SendingLine>[0], 'ready'> & { settled: boolean }) {
  const { sequence, draft } = line
  const { data: ready } = useLookingOn(sequence, settled && draft)
  return (
    <>
      <SendingLine ready={ready} {...line} />
      {ready && draft && <Keeps sequenceId={sequence.id} keeps={ready.keeps} />}
    </>
  )
}

function Before({
  settled,
  sequence,
  ...gaps
}: Omit<Parameters<typeof Gaps>[0], 'ready' | 'audience' | 'sequenceId'> & { sequence: Shape<'Sequence'>; settled: boolean }) {
  const { data: ready } = useLookingOn(sequence, settled)
  if (!ready) return <p className="muted mt-3">{plural(sequence.sieve.would_get_it, 'letter')}: looking at each…</p>
  return <Gaps sequenceId={sequence.id} ready={ready} audience={sequence.audience} {...gaps} />
}
