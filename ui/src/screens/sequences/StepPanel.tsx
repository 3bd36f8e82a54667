import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { plural, timeOfDay } from '../../app/format'
import { useCatalogue } from '../../app/useCatalogue'
import { LetterFrame } from '../../parts/LetterFrame'
import { OtherVersion } from './OtherVersion'
import { delayWords } from './Ruler'
import { type Change, stepInput } from './useSequence'

type Step = Shape<'Step'>

const UNITS: { value: Step['unit']; words: string }[] = [
  { value: 'working_days', words: 'working days' },
  { value: 'days', words: 'days' },
  { value: 'weeks', words: 'weeks' },
  { value: 'hours', words: 'hours' },
]
const TIMES = Array.from({ length: 48 }, (_, i) => i * 30).concat(1440)

function Timing({ step, first, onChange }: { step: Step; first: boolean; onChange: (change: Partial<Step>) => void }) {
  return (
    <div className="bg-[var(--sheet)] border border-base-300 rounded-sm px-2 py-2 flex flex-wrap items-center gap-1.5">
      <input
        type="number"
        min={0}
        max={365}
        aria-label="How long after"
        className="text-field !w-14"
        value={step.amount}
        onChange={(event) => onChange({ amount: Math.min(365, Math.max(0, Number(event.target.value) || 0)) })}
      />
      <select
        aria-label="Unit"
        className="select select-sm w-34 bg-transparent"
        value={step.unit}
        onChange={(event) => onChange({ unit: event.target.value as Step['unit'] })}
      >
        {UNITS.map((unit) => (
          <option key={unit.value} value={unit.value}>
            {unit.words}
          </option>
        ))}
      </select>
      <span className="muted">{first ? 'after joining' : 'after the step before'}, between</span>
      {(['from_minute', 'to_minute'] as const).map((name) => (
        <select
          key={name}
          aria-label={name === 'from_minute' ? 'Not before' : 'Not after'}
          className="select select-sm w-20 bg-transparent"
          value={step[name]}
          onChange={(event) => onChange({ [name]: Number(event.target.value) })}
        >
          {[...new Set([...TIMES, step[name]])]
            .sort((a, b) => a - b)
            .map((minutes) => (
              <option key={minutes} value={minutes}>
                {timeOfDay(minutes)}
              </option>
            ))}
        </select>
      ))}
      <select
        aria-label="Whose clock"
        className="select select-sm w-28 bg-transparent"
        value={step.zone}
        onChange={(event) => onChange({ zone: event.target.value as Step['zone'] })}
      >
        <option value="theirs">their time</option>
        <option value="ours">our time</option>
      </select>
    </div>
  )
}

function FirstLetter({ step }: { step: Step }) {
  const { data: stack } = useQuery({
    queryKey: ['stack', step.id],
    queryFn: () => ask(api.GET('/api/steps/{id}/stack', { params: { path: { id: step.id } } })),
    enabled: Boolean(step.letter_id),
  })
  const row = stack?.rows.find((one) => one.gaps.length === 0) ?? stack?.rows[0]
  if (!row) return null
  return (
    <>
      <p className="flex justify-between field-label !mt-4">
        <span>
          Reads like this to <strong className="font-semibold text-base-content">{row.name}</strong>
        </span>
        <Link to={`/stack/${step.id}`} className="text-primary font-semibold">
          See all {stack?.total}
        </Link>
      </p>
      <div className="max-h-64 overflow-hidden relative">
        <LetterFrame
          key={`${step.id} ${step.letter_id}`}
          width={300}
          src={`/api/steps/${step.id}/stack/${row.person_id}/shown`}
        />
        <div className="absolute bottom-0 inset-x-0 h-8 bg-gradient-to-t from-base-100 to-transparent" />
      </div>
    </>
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
  const step = sequence.steps[index]
  if (!step) return null
  const draft = sequence.state === 'draft'
  const update = (changed: Partial<Step>) =>
    onChange({ steps: sequence.steps.map((one, i) => stepInput(i === index ? { ...one, ...changed } : one)) })
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
          <Timing step={step} first={index === 0} onChange={update} />
        </>
      ) : (
        <p className="mb-2">
          Goes out {delayWords(step, index === 0)}, between {timeOfDay(step.from_minute)} and {timeOfDay(step.to_minute)},{' '}
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
            <strong className="text-error font-semibold">{plural(step.gaps ?? 0, 'letter has', 'letters have')} a gap.</strong>{' '}
            Mend the records, or give the field a fallback.
          </span>
          <Link to={`/stack/${step.id}`} className="text-error font-semibold whitespace-nowrap">
            Fill gaps
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
              onChange({ steps: sequence.steps.filter((_, i) => i !== index).map(stepInput) })
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
