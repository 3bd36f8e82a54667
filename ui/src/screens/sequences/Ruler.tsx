import type { ReactNode } from 'react'
import type { Shape } from '../../api/client'
import { number, plural, timeOfDay } from '../../app/format'
import { classes } from '../../parts/classes'
import { PeopleCount } from '../people/behind/PeopleCount'
import { FigureBehind } from '../results/FigureBehind'
import { flat, gapsIn } from './plan'
import { layOut } from './ruler'

type Sequence = Shape<'Sequence'>
type Step = Shape<'Step'>

const KINDS = { letter: 'Letter', task: 'Task', change: 'Change', hand_over: 'Hand-over', fork: 'Fork' } as const
const DONE = { letter: 'sent', task: 'done', change: 'done', hand_over: 'done', fork: 'through' } as const
const INDENT_PX = 28

function StepCard({
  sequenceId,
  step,
  lane,
  chosen,
  state,
  onChoose,
}: {
  sequenceId: number
  step: Step
  lane: string | null
  chosen: boolean
  state: Sequence['state']
  onChoose: () => void
}) {
  const counted = (name: 'planned' | 'sent' | 'may', words: ReactNode) => (
    <FigureBehind sequenceId={sequenceId} stepId={step.id} figure={{ name, count: step.counts[name] ?? 0 }} of={step.headline}>
      {words}
    </FigureBehind>
  )
  return (
    <div
      className={classes(
        'bg-[var(--sheet)] border rounded-sm px-3 py-1.5 h-[76px]',
        chosen ? 'border-primary ring-2 ring-primary/20' : 'border-base-300 hover:border-secondary',
      )}
    >
      <button type="button" aria-pressed={chosen} onClick={onChoose} className="block w-full text-left">
        <span className="flex justify-between text-xs muted">
          <span className="truncate" title={step.goes_out}>
            {lane && <strong className="font-semibold">{lane}: </strong>}
            {KINDS[step.kind]}
            {step.kind === 'letter' && ` · ${step.goes_out}, ${timeOfDay(step.from_minute)}–${timeOfDay(step.to_minute)}`}
            {['task', 'change', 'hand_over'].includes(step.kind) && ` · ${step.goes_out}`}
          </span>
          <span>{step.position}</span>
        </span>
        <span className="block font-serif text-base truncate">
          {step.kind === 'letter' && !step.letter ? <span className="text-error">No letter chosen</span> : step.headline}
        </span>
      </button>
      <span className="flex gap-3 items-center text-xs whitespace-nowrap">
        {state === 'draft' ? (
          <span>
            {step.counts.planned === 0 && step.counts.may ? 'up to ' : ''}
            <strong>{number(step.counts.planned || step.counts.may || 0)}</strong> planned
          </span>
        ) : (
          <span>
            {counted('sent', number(step.counts.sent))} of {counted('planned', number(step.counts.planned))} {DONE[step.kind]}
          </span>
        )}
        {state !== 'draft' && Boolean(step.counts.may) && counted('may', `${number(step.counts.may ?? 0)} more may come`)}
        {state !== 'draft' && step.counts.here > 0 && (
          <PeopleCount
            title={`Before “${step.headline}”`}
            count={step.counts.here}
            condition={{ membership: 'in', sequence_id: sequenceId, step_id: step.id }}
          >
            <span className="text-primary">{plural(step.counts.here, 'person', 'people')} here</span>
          </PeopleCount>
        )}
        {step.letter && <span className="muted">about {step.reading_minutes} min to read</span>}
        {Boolean(step.links) && <span className="muted">{plural(step.links ?? 0, 'link')}</span>}
        {Boolean(step.gaps) && <span className="text-error font-semibold">{gapsIn(step, 'gap')} to fill</span>}
      </span>
    </div>
  )
}

/** The plan on a ruler of days: computed from the timing, not dragged about. */
export function Ruler({
  sequence,
  chosen,
  onChoose,
}: {
  sequence: Sequence
  chosen: number | null
  onChoose: (step: number) => void
}) {
  const placed = flat(sequence.steps)
  const { rows, height } = layOut(
    placed.map(({ step }) => step.date),
    sequence.days_off,
  )
  const dateWords = (date: string) =>
    new Intl.DateTimeFormat('en-GB', { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' })
      .format(new Date(date))
      .replace(',', '')
  return (
    <div className="relative" style={{ height: height + 8 }}>
      <div className="absolute left-[78px] top-2 border-l border-base-300" style={{ height }} />
      {rows.map((row) =>
        row.kind === 'off' ? (
          <div
            key={row.from}
            className="absolute left-0 w-[84px] text-right text-[11px] muted"
            style={{ top: row.top + 4, height: row.height - 8 }}
          >
            <span className="hatched block mr-1.5 h-full leading-4">
              <span className="bg-base-100 px-1">{row.words}</span>
            </span>
          </div>
        ) : (
          <div key={row.date} className="absolute left-0 right-0" style={{ top: row.top, height: row.height }}>
            <div className="absolute left-0 w-[70px] text-right text-xs top-2 leading-4">
              {row.steps.length > 0 ? (
                <>
                  <strong className="font-semibold">Day {row.day}</strong>
                  <br />
                  <span className="muted whitespace-nowrap">{dateWords(row.date)}</span>
                </>
              ) : (
                <span className="muted">{row.day}</span>
              )}
            </div>
            <div className="absolute left-[75px] top-4 w-2 border-t border-secondary" />
            {row.steps.map((i, n) => {
              const one = placed[i]
              return (
                one && (
                  <div
                    key={one.step.id}
                    className="absolute w-[360px]"
                    style={{ top: n * 92, left: 104 + one.depth * INDENT_PX }}
                  >
                    <StepCard
                      sequenceId={sequence.id}
                      step={one.step}
                      lane={one.lane}
                      state={sequence.state}
                      chosen={chosen === i}
                      onChoose={() => onChoose(i)}
                    />
                  </div>
                )
              )
            })}
          </div>
        ),
      )}
    </div>
  )
}
