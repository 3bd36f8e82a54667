import type { ReactNode } from 'react'
import { Link } from 'react-router'
import type { Shape } from '../../../api/client'
import { leading } from '../plan/plan'
import { KINDS } from '../plan/StepCard'
import { ChangeStep } from './ChangeStep'
import { ForkStep } from './ForkStep'
import { HandOverStep } from './HandOverStep'
import { LetterChoice, LetterStep } from './LetterStep'
import { MoreAbout, OnlyFor } from './MoreAbout'
import { Notes } from './Notes'
import { TaskStep } from './TaskStep'
import { TimingSentence } from './TimingSentence'
import { hours, type Timing } from './timing'
import { WhenForSomebody } from './When'

type Step = Shape<'Step'>
type Sequence = Shape<'Sequence'>

/** What becomes of a step, or how it is made of the step as it is by then. */
export type StepChange = Partial<Shape<'StepInput'>> | ((now: Shape<'StepInput'>) => Partial<Shape<'StepInput'>>)
/** What can be done with a step as a whole. */
export type StepActs = { up: () => void; down: () => void; copy: () => void; out: () => void; close: () => void }

/** What one step is, and, where the plan can be changed, everything that can be said of it; it is saved as one goes. */
export function StepPanel({
  sequence,
  step,
  editable,
  acts,
  onChange,
}: {
  sequence: Sequence
  step: Step
  editable: boolean
  acts: StepActs
  onChange: (change: StepChange) => void
}) {
  const draft = sequence.state === 'draft'
  const update = (change: Partial<Step>) => onChange(change as Partial<Shape<'StepInput'>>)
  const title = step.kind === 'letter' ? (step.letter ?? 'Which letter?') : step.headline
  return (
    <aside aria-label={`Step ${step.position}`} className="border-l border-base-300 pl-5">
      <div className="flex justify-between text-xs muted">
        <span>
          Step {step.position} · {KINDS[step.kind]}
        </span>
        {step.letter_id && (
          <Link to={`/letters/${step.letter_id}`} className="text-primary font-semibold">
            Open letter
          </Link>
        )}
      </div>
      <h2 className="text-xl mb-3">{title}</h2>
      {editable && step.missing && <p className="text-error font-semibold mb-2">Still to be said: {step.missing}.</p>}
      {editable && <OfItsKind sequence={sequence} step={step} onChange={onChange} />}
      {step.kind === 'fork' ? (
        <ForkStep sequence={sequence} step={step} editable={editable} onChange={onChange} />
      ) : (
        <>
          {editable ? (
            <>
              <span className="field-label">{step.kind === 'letter' ? 'Goes out' : 'Done'}</span>
              <TimingSentence timing={step as Timing} before={countedFrom(sequence, step)} onChange={update} />
            </>
          ) : (
            <p className="mb-2">
              {step.kind === 'letter' ? 'Goes out' : 'Done'} {step.goes_out}, {hours(step)},{' '}
              {step.zone === 'theirs' ? 'their' : 'our'} time.
            </p>
          )}
          <OnlyFor step={step} editable={editable} onChange={update} />
          <MoreAbout step={step} editable={editable} onChange={update} />
        </>
      )}
      {step.kind !== 'letter' && step.kind !== 'fork' && !step.proposed && <WhenForSomebody step={step} />}
      {step.kind === 'letter' && <LetterStep sequenceId={sequence.id} step={step} draft={draft} onChange={update} />}
      <Notes sequence={sequence} stepId={step.id} />
      <div className="flex flex-wrap gap-2 mt-4">
        {editable && (
          <>
            <Act words="Earlier" onClick={acts.up} />
            <Act words="Later" onClick={acts.down} />
            <Act words="Copy" onClick={acts.copy} />
            <Act words="Take this step out" onClick={acts.out} />
          </>
        )}
        <Act words="Close" onClick={acts.close} />
      </div>
    </aside>
  )
}

function Act({ words, onClick }: { words: ReactNode; onClick: () => void }) {
  return (
    <button type="button" className="btn btn-xs btn-plain" onClick={onClick}>
      {words}
    </button>
  )
}

function OfItsKind({
  sequence,
  step,
  onChange,
}: {
  sequence: Sequence
  step: Step
  onChange: (change: Partial<Shape<'StepInput'>>) => void
}) {
  const update = (change: Partial<Step>) => onChange(change as Partial<Shape<'StepInput'>>)
  switch (step.kind) {
    case 'letter':
      return <LetterChoice sequence={sequence} step={step} onChange={update} />
    case 'task':
      return <TaskStep step={step} onChange={update} />
    case 'change':
      return <ChangeStep step={step} onChange={update} />
    case 'hand_over':
      return <HandOverStep sequenceId={sequence.id} step={step} onChange={update} />
    default:
      return null
  }
}

/** "joining" for the first, "step 3" for one with another before it in its own row; for the first of a lane, its fork. */
export function countedFrom(sequence: Sequence, step: Step): string {
  const before = leading(sequence.steps, step.id)
  if (!before) return 'joining'
  if (before.inside) return 'the fork'
  return before.step.kind === 'fork' ? `the fork, step ${before.step.position}` : `step ${before.step.position}`
}
