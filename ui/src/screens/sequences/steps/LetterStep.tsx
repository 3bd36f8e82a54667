import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { api, ask, type Shape } from '../../../api/client'
import { plural } from '../../../app/format'
import { LetterFrame } from '../../../parts/LetterFrame'
import { ErrorNote } from '../../../parts/States'
import { NewLetter } from '../../letters/library/NewLetter'
import { FigureBehind } from '../../results/FigureBehind'
import { WriteAgain } from '../../results/WriteAgain'
import { gapsIn } from '../plan/plan'
import { LetterPick } from './LetterPick'
import { OtherVersion } from './OtherVersion'
import { useReader, When } from './When'

type Step = Shape<'Step'>

type Choosing = {
  sequence: Shape<'Sequence'>
  /** Where one comes back to from writing. */
  back: string
  chosen: number | null
  onTake: (id: number) => void
  onClose: () => void
}

/** A letter from the library, a new one, or one that begins as a copy; whoever writes comes back here. */
function ChooseLetter({ sequence, back, chosen, onTake, onClose }: Choosing) {
  const client = useQueryClient()
  const navigate = useNavigate()
  const [fresh, setFresh] = useState(false)
  const write = (id: number) => navigate(`/letters/${id}`, { state: { back: { to: back, words: sequence.name } } })
  const taken = (id: number) => {
    onTake(id)
    client.invalidateQueries({ queryKey: ['letters'] })
    client.invalidateQueries({ queryKey: ['catalogue'] })
  }
  const made = (id: number) => {
    taken(id)
    write(id)
  }
  const copy = useMutation({
    mutationFn: (id: number) => ask(api.POST('/api/letters/{id}/copy', { params: { path: { id } }, body: {} })),
    onSuccess: (letter) => made(letter.id),
  })
  return (
    <>
      {copy.error && <ErrorNote error={copy.error} />}
      {fresh ? (
        <NewLetter onMade={made} onClose={onClose} />
      ) : (
        <LetterPick
          chosen={chosen}
          onPick={taken}
          onCopy={(id) => copy.mutate(id)}
          onNew={() => setFresh(true)}
          onClose={onClose}
        />
      )}
    </>
  )
}

/** The first letter of a plan that has no step yet: with one choice it is laid out. */
export function FirstLetter(props: Omit<Choosing, 'back' | 'chosen'>) {
  return <ChooseLetter {...props} back={`/sequences/${props.sequence.id}`} chosen={null} />
}

/** Which letter a step sends. */
export function LetterChoice({
  sequence,
  step,
  onChange,
}: {
  sequence: Shape<'Sequence'>
  step: Step
  onChange: (change: Partial<Step>) => void
}) {
  const navigate = useNavigate()
  const [open, setOpen] = useState(false)
  const back = `/sequences/${sequence.id}?step=${step.id}`
  return (
    <div className="mb-3">
      <span className="field-label">Letter</span>
      <span className="bg-[var(--sheet)] border border-base-300 rounded-sm px-2.5 py-1.5 flex justify-between gap-2">
        <button type="button" className="word text-left truncate" onClick={() => setOpen(true)}>
          {step.letter ?? 'choose or write one'}
        </button>
        {step.letter_id && (
          <button
            type="button"
            className="text-primary font-semibold whitespace-nowrap"
            onClick={() => navigate(`/letters/${step.letter_id}`, { state: { back: { to: back, words: sequence.name } } })}
          >
            Write
          </button>
        )}
      </span>
      {open && (
        <ChooseLetter
          sequence={sequence}
          back={back}
          chosen={step.letter_id ?? null}
          onTake={(letter_id) => {
            onChange({ letter_id })
            setOpen(false)
          }}
          onClose={() => setOpen(false)}
        />
      )}
    </div>
  )
}

/** How it reads to one of them, when it goes to that person, and why then. */
function Reads({ step }: { step: Step }) {
  const reader = useReader(step)
  if (!reader?.person_id) return null
  return (
    <>
      <p className="flex justify-between gap-2 field-label !mt-4">
        <span>
          Reads like this to <strong className="font-semibold text-base-content">{reader.name}</strong>
        </span>
        <Link to={`/stack/${step.id}`} className="text-primary font-semibold whitespace-nowrap">
          See all {reader.total}
        </Link>
      </p>
      <When step={step} personId={reader.person_id} />
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

/** Who had it and said nothing, and the move to write to them once more. */
function QuietOnes({ sequenceId, step }: { sequenceId: number; step: Step }) {
  const { data } = useQuery({
    queryKey: ['results', sequenceId],
    queryFn: () => ask(api.GET('/api/sequences/{id}/results', { params: { path: { id: sequenceId } } })),
  })
  const figures = data?.steps.find((one) => one.step_id === step.id)?.figures
  const count = figures?.find((figure) => figure.name === 'quiet')?.count ?? 0
  if (count === 0) return null
  return (
    <p className="mt-3 flex justify-between gap-3 items-baseline">
      <FigureBehind sequenceId={sequenceId} stepId={step.id} figure={{ name: 'quiet', count }} of={step.headline}>
        {plural(count, 'person', 'people')}
      </FigureBehind>
      <span className="grow">had it, and neither opened, clicked nor replied</span>
      <WriteAgain sequenceId={sequenceId} stepId={step.id} count={count} />
    </p>
  )
}

/** Nobody is on the way to what is only proposed. */
function NotYet({ step }: { step: Step }) {
  if (!step.letter_id) return null
  return (
    <p className="mt-3 muted">
      The letters themselves are in the stack once this has taken effect.{' '}
      <Link to={`/letters/${step.letter_id}`} className="text-primary font-semibold">
        Read the letter as anybody
      </Link>
    </p>
  )
}

/** What a letter step has besides its timing: its versions, how it reads, its gaps. */
export function LetterStep({
  sequenceId,
  step,
  draft,
  onChange,
}: {
  sequenceId: number
  step: Step
  draft: boolean
  onChange: (change: Partial<Step>) => void
}) {
  return (
    <>
      {step.subject && (
        <p className="mt-3">
          <span className="field-label">Subject</span>
          {step.subject}
        </p>
      )}
      {Boolean(step.gaps) && (
        <p className="bg-[var(--gap)] px-3 py-2 mt-3 flex justify-between gap-3">
          <span>
            <strong className="text-error font-semibold">{gapsIn(step, 'letter has', 'letters have')} a gap.</strong> Mend the
            records, or give the field a fallback.
          </span>
          <Link to={`/stack/${step.id}?gaps`} className="text-error font-semibold whitespace-nowrap">
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
      {step.proposed ? <NotYet step={step} /> : <Reads step={step} />}
      {!draft && <QuietOnes sequenceId={sequenceId} step={step} />}
      {step.letter_id && <OtherVersion step={step} draft={draft} onChange={(other) => onChange({ other })} />}
    </>
  )
}
