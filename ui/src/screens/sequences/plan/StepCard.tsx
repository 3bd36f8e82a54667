import type { ReactNode } from 'react'
import type { Shape } from '../../../api/client'
import { number, plural } from '../../../app/format'
import { classes } from '../../../parts/classes'
import { PeopleCount } from '../../people/behind/PeopleCount'
import { FigureBehind } from '../../results/FigureBehind'
import { hours } from '../steps/timing'
import { dragging } from './AddHere'
import { gapsIn } from './plan'

type Step = Shape<'Step'>
type State = Shape<'Sequence'>['state']

export const KINDS = { letter: 'Letter', task: 'Task', change: 'Change', hand_over: 'Hand-over', fork: 'Fork' } as const
const DONE = { letter: 'sent', task: 'done', change: 'done', hand_over: 'done', fork: 'through' } as const

/** How many stand where, each with its people behind it. */
function Counts({ sequenceId, step, state, narrow }: { sequenceId: number; step: Step; state: State; narrow: boolean }) {
  const counted = (name: 'planned' | 'sent' | 'may', words: ReactNode) => (
    <FigureBehind sequenceId={sequenceId} stepId={step.id} figure={{ name, count: step.counts[name] ?? 0 }} of={step.headline}>
      {words}
    </FigureBehind>
  )
  if (state === 'draft')
    return (
      <span>
        {step.counts.planned === 0 && step.counts.may ? 'up to ' : ''}
        <strong>{number(step.counts.planned || step.counts.may || 0)}</strong> planned
      </span>
    )
  return (
    <>
      {narrow ? (
        counted('sent', `${number(step.counts.sent)} ${DONE[step.kind]}`)
      ) : (
        <span>
          {counted('sent', number(step.counts.sent))} of {counted('planned', number(step.counts.planned))} {DONE[step.kind]}
        </span>
      )}
      {Boolean(step.counts.may) &&
        counted('may', narrow ? `+${number(step.counts.may ?? 0)} may` : `${number(step.counts.may ?? 0)} more may come`)}
      {step.counts.here > 0 && (
        <PeopleCount
          title={`Before “${step.headline}”`}
          count={step.counts.here}
          condition={{ membership: 'in', sequence_id: sequenceId, step_id: step.id }}
        >
          <span className="text-primary">
            {narrow ? number(step.counts.here) : plural(step.counts.here, 'person', 'people')} here
          </span>
        </PeopleCount>
      )}
    </>
  )
}

/** What is to be mended, or worth knowing before one opens the step. */
function Remarks({ step, narrow }: { step: Step; narrow: boolean }) {
  if (step.missing) return <span className="text-error font-semibold">{step.missing}</span>
  if (step.proposed) return <strong className="text-accent font-semibold">{step.proposed}</strong>
  if (step.gaps) return <span className="text-error font-semibold">{gapsIn(step, 'gap')} to fill</span>
  if (step.only_for && !narrow) return <span className="muted">only for some</span>
  if (step.look_first) return <span className="text-accent">waits for a look</span>
  if (narrow || step.kind !== 'letter') return null
  return (
    <>
      <span className="muted">about {step.reading_minutes} min to read</span>
      {Boolean(step.links) && <span className="muted">{plural(step.links ?? 0, 'link')}</span>}
    </>
  )
}

/** One step on the ruler. It is chosen with a click, moved by dragging, and says what is missing. */
export function StepCard({
  sequenceId,
  step,
  state,
  chosen,
  dense,
  narrow,
  notes,
  movable,
  onChoose,
}: {
  sequenceId: number
  step: Step
  state: State
  chosen: boolean
  dense: boolean
  narrow: boolean
  notes: Shape<'PlanNote'>[]
  movable: boolean
  onChoose: () => void
}) {
  const fork = step.kind === 'fork'
  const when = fork ? '' : ` · ${step.goes_out}${step.kind === 'letter' ? `, ${hours(step)}` : ''}`
  const name = step.kind === 'letter' && !step.letter ? 'Which letter?' : step.headline
  return (
    <div
      {...(movable ? dragging(step.id) : {})}
      className={classes(
        'border rounded-sm px-3 h-full overflow-hidden',
        fork ? 'bg-base-200 py-1 w-fit max-w-full' : 'bg-[var(--sheet)]',
        !fork && (dense ? 'py-0.5' : 'py-1.5'),
        chosen ? 'border-primary ring-2 ring-primary/20' : 'border-base-300 hover:border-secondary',
      )}
    >
      <button
        type="button"
        aria-pressed={chosen}
        aria-label={`Step ${step.position}: ${name}`}
        data-step={step.id}
        onClick={onChoose}
        className="block w-full text-left"
      >
        {fork && (
          <span className="text-[13px] font-semibold leading-5 block truncate">
            {step.position} · {name}
            {step.missing && <span className="text-error"> · {step.missing}</span>}
            {step.proposed && <span className="text-accent"> · {step.proposed}</span>}
          </span>
        )}
        {!fork && !dense && (
          <span className="flex justify-between gap-2 text-xs muted">
            <span className="truncate" title={step.goes_out}>
              {KINDS[step.kind]}
              {when}
            </span>
            <span>{step.position}</span>
          </span>
        )}
        {!fork && (
          <span className="flex justify-between gap-2 font-serif text-base leading-6">
            <span className="truncate">{name}</span>
            {dense && <span className="font-sans text-xs muted">{step.position}</span>}
          </span>
        )}
      </button>
      {!fork && (
        <span className="flex gap-3 items-center text-xs whitespace-nowrap leading-5">
          {dense && (
            <span className="muted truncate" title={step.goes_out}>
              {KINDS[step.kind]} · {step.goes_out}
            </span>
          )}
          <Counts sequenceId={sequenceId} step={step} state={state} narrow={narrow} />
          <Remarks step={step} narrow={narrow || dense} />
        </span>
      )}
      {notes.length > 0 && (
        <span className="block text-xs leading-[18px] text-accent truncate" title={notes.map((note) => note.text).join('\n')}>
          ✎ {notes[0]?.text}
          {notes.length > 1 && ` and ${notes.length - 1} more`}
        </span>
      )}
    </div>
  )
}
