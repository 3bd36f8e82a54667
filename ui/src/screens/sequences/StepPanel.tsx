import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { plural, timeOfDay } from '../../app/format'
import { useCatalogue } from '../../app/useCatalogue'
import { useNow } from '../../app/usePost'
import { LetterFrame } from '../../parts/LetterFrame'
import { PeopleCount } from '../people/behind/PeopleCount'
import { OtherVersion } from './OtherVersion'
import { changed, flat, gapsIn, stepInput } from './plan'
import { StepTiming } from './StepTiming'
import type { Change } from './useSequence'

type Step = Shape<'Step'>

function FirstLetter({ step }: { step: Step }) {
  const { data: reader } = useQuery({
    queryKey: ['stack', step.id, 'reader'],
    queryFn: () => ask(api.GET('/api/steps/{id}/reader', { params: { path: { id: step.id } } })),
    enabled: Boolean(step.letter_id),
  })
  if (!reader?.person_id) return null
  return (
    <>
      <p className="flex justify-between field-label !mt-4">
        <span>
          Reads like this to <strong className="font-semibold text-base-content">{reader.name}</strong>
        </span>
        <Link to={`/stack/${step.id}`} className="text-primary font-semibold">
          See all {reader.total}
        </Link>
      </p>
      <div className="max-h-64 overflow-hidden relative">
        <LetterFrame
          key={`${step.id} ${step.letter_id}`}
          width={300}
          src={`/api/steps/${step.id}/stack/${reader.person_id}/shown`}
        />
        <div className="absolute bottom-0 inset-x-0 h-8 bg-gradient-to-t from-base-100 to-transparent" />
      </div>
    </>
  )
}

/** A step that is no letter, in words. */
function OtherStep({ sequenceId, step, onClose }: { sequenceId: number; step: Step; onClose: () => void }) {
  return (
    <aside aria-label={`Step ${step.position}`} className="border-l border-base-300 pl-5">
      <p className="text-xs muted">Step {step.position}</p>
      <h2 className="text-xl mb-3">{step.headline}</h2>
      {step.kind === 'fork' ? (
        <dl>
          {step.lanes?.map((lane) => (
            <div key={lane.id} className="flex justify-between gap-3 py-1 border-b border-base-300">
              <dt>{lane.headline}</dt>
              <dd className="muted whitespace-nowrap">
                <PeopleCount
                  title={`Went the lane “${lane.headline}”`}
                  count={lane.took}
                  condition={{ membership: 'was_in', sequence_id: sequenceId, lane_id: lane.id }}
                >
                  {plural(lane.took, 'person', 'people')}
                </PeopleCount>{' '}
                took it{lane.comes_back ? '' : '; ends there'}
              </dd>
            </div>
          ))}
        </dl>
      ) : (
        <p>Done {step.goes_out}.</p>
      )}
      <button type="button" className="btn btn-xs btn-plain mt-4" onClick={onClose}>
        Close
      </button>
    </aside>
  )
}

/** What one step is: its letter, its timing, and how it reads. */
export function StepPanel({
  sequence,
  index,
  onChange,
  onClose,
}: {
  sequence: Shape<'Sequence'>
  index: number
  onChange: (change: Change) => void
  onClose: () => void
}) {
  const { data: catalogue } = useCatalogue()
  const now = useNow()
  const step = flat(sequence.steps)[index]?.step
  if (!step) return null
  if (step.kind !== 'letter') return <OtherStep sequenceId={sequence.id} step={step} onClose={onClose} />
  const draft = sequence.state === 'draft'
  const put = (change: Partial<Step> | null) => onChange({ steps: changed(sequence.steps, step.id, change).map(stepInput) })
  const update = (change: Partial<Step>) => put(change)
  return (
    <aside aria-label={`Step ${index + 1}`} className="border-l border-base-300 pl-5">
      <div className="flex justify-between text-xs muted">
        <span>Step {index + 1} · Letter</span>
        {step.letter_id && (
          <Link to={`/letters/${step.letter_id}`} className="text-primary font-semibold">
            Open letter
          </Link>
        )}
      </div>
      <h2 className="text-xl mb-3">{step.letter ?? 'Which letter?'}</h2>
      {draft ? (
        <>
          <label className="block mb-3">
            <span className="field-label">Letter</span>
            <select
              className="select select-sm w-full bg-[var(--sheet)]"
              value={step.letter_id ?? ''}
              onChange={(event) => update({ letter_id: Number(event.target.value) || null })}
            >
              <option value="">Choose a letter…</option>
              {catalogue?.letters.map((letter) => (
                <option key={letter.id} value={letter.id}>
                  {letter.name}
                </option>
              ))}
            </select>
          </label>
          <span className="field-label">Goes out</span>
          <StepTiming step={step} first={index === 0} today={now.slice(0, 10)} onChange={update} />
        </>
      ) : (
        <p className="mb-2">
          Goes out {step.goes_out}, between {timeOfDay(step.from_minute)} and {timeOfDay(step.to_minute)},{' '}
          {step.zone === 'theirs' ? 'their' : 'our'} time.
        </p>
      )}
      {step.subject && (
        <p className="mt-3">
          <span className="field-label">Subject</span>
          {step.subject}
        </p>
      )}
      {step.letter_id && <OtherVersion step={step} draft={draft} onChange={(other) => update({ other })} />}
      <FirstLetter step={step} />
      {Boolean(step.gaps) && (
        <p className="bg-[var(--gap)] px-3 py-2 mt-3 flex justify-between gap-3">
          <span>
            <strong className="text-error font-semibold">{gapsIn(step, 'letter has', 'letters have')} a gap.</strong> Mend the
            records, or give the field a fallback.
          </span>
          <Link to={`/stack/${step.id}`} className="text-error font-semibold whitespace-nowrap">
            Fill gaps
          </Link>
        </p>
      )}
      {draft && step.letter_id && step.gaps === null && (
        <p className="bg-[var(--gap)] px-3 py-2 mt-3 flex justify-between gap-3">
          <span>Whether a letter has a gap is not known before the letters are looked at.</span>
          <Link to={`/stack/${step.id}`} className="text-primary font-semibold whitespace-nowrap">
            Look at them
          </Link>
        </p>
      )}
      <div className="flex gap-2 mt-4">
        {draft && (
          <button
            type="button"
            className="btn btn-xs btn-plain"
            onClick={() => {
              onClose()
              put(null)
            }}
          >
            Take this step out
          </button>
        )}
        <button type="button" className="btn btn-xs btn-plain" onClick={onClose}>
          Close
        </button>
      </div>
    </aside>
  )
}
