import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { moment, plural } from '../../../app/format'
import { stale } from '../../../app/stale'
import { useFirst } from '../../../app/useFirst'
import { LetterFrame } from '../../../parts/LetterFrame'
import { Modal } from '../../../parts/Modal'
import { Empty, ErrorNote, Loading } from '../../../parts/States'
import { MendGap } from '../../stack/MendGap'

type Person = { id: number; name: string }
type Running = Pick<Shape<'SequenceRow'>, 'id' | 'name' | 'state'>
type Stop = Shape<'Stop'> & { step_id: number }

/** One person into a sequence, from where one is: which, each letter with its date, what is missing, and in. */
export function AddOne({ person, onClose }: { person: Person; onClose: () => void }) {
  const [sequence, setSequence] = useState<Running | null>(null)
  return (
    <Modal
      wide
      title={sequence ? `${person.name} into “${sequence.name}”` : `Add ${person.name} to a sequence`}
      onClose={onClose}
    >
      {sequence ? (
        <Letters person={person} sequence={sequence} onBack={() => setSequence(null)} onClose={onClose} />
      ) : (
        <Which onPick={setSequence} />
      )}
    </Modal>
  )
}

/** Those that take people in, found by a word. */
function Which({ onPick }: { onPick: (sequence: Running) => void }) {
  const [words, setWords] = useState('')
  const { data, error } = useQuery({
    queryKey: ['sequences'],
    queryFn: async () => (await ask(api.GET('/api/sequences'))).sequences,
  })
  const found = data?.filter(
    (one) => ['running', 'paused'].includes(one.state) && one.name.toLowerCase().includes(words.trim().toLowerCase()),
  )
  const { takeFirst, forget } = useFirst(found?.[0], onPick)
  return (
    <>
      <input
        type="search"
        data-first
        className="text-field"
        aria-label="Find a sequence"
        placeholder="A word in its name"
        value={words}
        onChange={(event) => {
          forget()
          setWords(event.target.value)
        }}
        onKeyDown={(event) => event.key === 'Enter' && takeFirst()}
      />
      {error && <ErrorNote error={error} />}
      {!data && !error && <Loading lines={3} />}
      {found?.length === 0 && <Empty>No sequence that runs has these words. A draft takes people in once it has started.</Empty>}
      <ul className="mt-2">
        {found?.map((one) => (
          <li key={one.id}>
            <button
              type="button"
              className="w-full text-left px-2 py-1.5 rounded-sm hover:bg-base-200 flex justify-between gap-3"
              onClick={() => onPick(one)}
            >
              <span className="font-serif text-base">{one.name}</span>
              <span className="muted">
                {one.state === 'paused' && 'paused · '}
                {plural(one.steps, 'step')}, {plural(one.people, 'person', 'people')}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </>
  )
}

function Letters({
  person,
  sequence,
  onBack,
  onClose,
}: {
  person: Person
  sequence: Running
  onBack: () => void
  onClose: () => void
}) {
  const client = useQueryClient()
  const [again, setAgain] = useState<'leave_out' | 'keep'>('leave_out')
  const [shown, setShown] = useState<number | null>(null)
  const audience = { people: [person.id] }
  const path = { id: sequence.id }
  const preview = useQuery({
    queryKey: ['join', sequence.id, audience, again],
    queryFn: () => ask(api.POST('/api/sequences/{id}/join', { params: { path }, body: { audience, again } })),
  })
  const way = useQuery({
    queryKey: ['stack', 'way', sequence.id, person.id],
    queryFn: () =>
      ask(api.GET('/api/sequences/{id}/way/{person_id}', { params: { path: { id: sequence.id, person_id: person.id } } })),
  })
  const add = useMutation({
    mutationFn: ({ letters, gaps }: Shape<'Joining'>) =>
      ask(api.POST('/api/sequences/{id}/join', { params: { path }, body: { audience, again, letters, gaps } })),
    onSuccess: () => {
      stale(client, 'joined')
      client.invalidateQueries({ queryKey: ['person', person.id] })
      client.invalidateQueries({ queryKey: ['history'] })
      onClose()
    },
  })
  const account = preview.data
  const before = (account?.again ?? []).length > 0
  const stops = (way.data?.ahead ?? []).filter((stop): stop is Stop => Boolean(stop.step_id) && stop.what !== 'take')
  const out = account && account.sieve.would_get_it === 0 ? whyNot(account.sieve) : null
  const error = preview.error ?? way.error ?? add.error
  return (
    <>
      {error && <ErrorNote error={error} />}
      {!way.data && !way.error && <Loading lines={4} />}
      {out && <p className="bg-[var(--gap)] px-3 py-2 mb-2">They would get nothing: {out}.</p>}
      {before && !out && (
        <label className="flex gap-2 items-center mb-2">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={again === 'keep'}
            onChange={(event) => setAgain(event.target.checked ? 'keep' : 'leave_out')}
          />
          They were in it before (“{account?.again[0]?.words}”). Add them again, with that status.
        </label>
      )}
      <ol>
        {stops.map((stop) => (
          <li key={stop.step_id} className="border-b border-base-300/60 py-1.5">
            <div className="flex gap-3 items-baseline">
              <span className="w-44 shrink-0 whitespace-nowrap">{stop.at && way.data && moment(stop.at, way.data.zone)}</span>
              <button
                type="button"
                className="grow text-left font-serif text-base hover:underline"
                aria-expanded={shown === stop.step_id}
                disabled={stop.what !== 'send'}
                onClick={() => setShown(shown === stop.step_id ? null : stop.step_id)}
              >
                {stop.headline}
              </button>
              {stop.what === 'skip' && <span className="muted">passes them by</span>}
              {stop.what === 'wait' && <span className="muted">waits</span>}
            </div>
            {stop.why && <p className="muted text-xs pl-47">{stop.why}</p>}
            {stop.what === 'send' && (
              <OneLetter
                stepId={stop.step_id}
                person={person}
                shown={shown === stop.step_id}
                onMended={() => preview.refetch()}
              />
            )}
          </li>
        ))}
      </ol>
      {account && account.gaps > 0 && <p className="mt-2">A letter with a gap waits, shown under Today, until it is filled.</p>}
      {stops.length > 0 && <p className="muted text-xs mt-2">By their clock, if they do nothing.</p>}
      <div className="flex gap-2 mt-4">
        <button type="button" className="btn btn-sm btn-plain" onClick={onBack}>
          Another sequence
        </button>
        <span className="grow" />
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Not now
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={!account || account.letters === 0 || add.isPending}
          onClick={() => account && add.mutate(account)}
        >
          Add them{account && account.letters > 0 && `: ${plural(account.letters, 'letter')}`}
        </button>
      </div>
    </>
  )
}

/** One of the letters: what is missing in it, and how it reads. */
function OneLetter({
  stepId,
  person,
  shown,
  onMended,
}: {
  stepId: number
  person: Person
  shown: boolean
  onMended: () => void
}) {
  const [mending, setMending] = useState<string | null>(null)
  const { data, dataUpdatedAt } = useQuery({
    queryKey: ['stack', stepId, person.id],
    queryFn: () => ask(api.GET('/api/steps/{id}/stack/{person_id}', { params: { path: { id: stepId, person_id: person.id } } })),
  })
  const gaps = data?.gaps ?? []
  return (
    <>
      {gaps.map((gap) => (
        <button key={gap.field} type="button" className="text-error font-semibold mr-3" onClick={() => setMending(gap.field)}>
          {gap.label} is missing: fill it
        </button>
      ))}
      {mending && (
        <MendGap
          stepId={stepId}
          personId={person.id}
          field={mending}
          onClose={() => {
            setMending(null)
            onMended()
          }}
        />
      )}
      {shown && <LetterFrame key={dataUpdatedAt} width={680} src={`/api/steps/${stepId}/stack/${person.id}/shown`} />}
    </>
  )
}

/** What the sieve says of somebody who is the only one asked about. */
function whyNot({ stages }: Shape<'Joining'>['sieve']): string {
  const reason = stages?.flatMap((stage) => stage.reasons).find(({ count }) => count > 0)
  return reason?.words ?? 'they are in it already'
}
