import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { plural } from '../../../app/format'
import { stale } from '../../../app/stale'
import { Modal } from '../../../parts/Modal'
import { ErrorNote, Loading } from '../../../parts/States'
import { OpensPeople } from '../../people/behind/OpensPeople'

type Proposal = Shape<'Proposal'>
type Kind = keyof NonNullable<Proposal['counts']>
const KINDS: { kind: Kind; words: string }[] = [
  { kind: 'more', words: 'come to one step more, or several' },
  { kind: 'fewer', words: 'come to one step fewer, or several' },
  { kind: 'instead', words: 'come to another step instead of one they had before them' },
  { kind: 'later', words: 'come to their steps later' },
  { kind: 'sooner', words: 'come to their steps sooner' },
  { kind: 'lane_gone', words: 'stand in a lane that is gone, and go on behind its fork' },
  { kind: 'other_words', words: 'will or may get a letter that was rewritten; choose its words below' },
  { kind: 'untouched', words: 'get what they would have got, at the same times' },
]

const INSERTED = [
  { only_later: false, words: 'people right before them, and all who arrive later' },
  { only_later: true, words: 'only people who arrive later' },
]

/** What the change means for whom, before it takes effect. */
export function TakeEffect({ sequence, onDone }: { sequence: Shape<'Sequence'>; onDone: () => void }) {
  const client = useQueryClient()
  const path = { params: { path: { id: sequence.id } } }
  const proposal = useQuery({
    queryKey: ['proposal', sequence.id, 'counted'],
    queryFn: () => ask(api.GET('/api/sequences/{id}/proposal', { params: { ...path.params, query: { counts: true } } })),
    staleTime: 0,
  })
  // Letters are left in the words their readers were promised unless somebody ticks them.
  const [words, setWords] = useState<number[]>([])
  const effect = useMutation({
    mutationFn: ({ version, letters }: Proposal) =>
      ask(
        api.POST('/api/sequences/{id}/proposal/effect', {
          ...path,
          body: {
            version,
            letters: letters
              .filter((letter) => words.includes(letter.letter_id))
              .map((letter) => ({ letter_id: letter.letter_id, version: letter.version })),
          },
        }),
      ),
    onSuccess: (changed) => {
      client.setQueryData(['sequence', sequence.id], changed)
      client.invalidateQueries({ queryKey: ['proposed', sequence.id] })
      stale(client, 'sequence')
      onDone()
    },
    onError: () => {
      proposal.refetch()
      client.invalidateQueries({ queryKey: ['proposed', sequence.id] })
    },
  })
  const later = useMutation({
    mutationFn: ({ version, only_later }: { version: number; only_later: boolean }) =>
      ask(api.PUT('/api/sequences/{id}/proposal', { ...path, body: { version, only_later } })),
    onSettled: () => {
      proposal.refetch()
      client.invalidateQueries({ queryKey: ['proposed', sequence.id] })
    },
  })
  const { data } = proposal
  return (
    <Modal title="Let this take effect?" onClose={onDone}>
      {proposal.error && <ErrorNote error={proposal.error} />}
      {proposal.isPending && (
        <>
          <Loading />
          <p className="muted text-center">Everybody on the way is looked at. Of very many that takes some seconds.</p>
        </>
      )}
      {data?.unsaid && data.unsaid.length > 0 && (
        <>
          <p>Something is still to be said first:</p>
          <ul className="list-disc pl-5 my-2">
            {data.unsaid.map((one) => (
              <li key={one.step_id}>{one.words}</li>
            ))}
          </ul>
        </>
      )}
      {data && !data.proposed && <p>Nothing is proposed any more.</p>}
      {data?.counts && <Numbers sequence={sequence} proposal={data} counts={data.counts} />}
      {data?.counts && (data.counts.more + data.counts.instead > 0 || data.only_later) && (
        <fieldset className="mt-3" disabled={later.isPending || proposal.isFetching}>
          <legend className="field-label">Inserted steps are for</legend>
          {INSERTED.map(({ only_later, words }) => (
            <label key={words} className="flex gap-2 items-baseline py-0.5">
              <input
                type="radio"
                name="only-later"
                className="radio radio-xs self-center"
                checked={(data.only_later ?? false) === only_later}
                onChange={() => later.mutate({ version: data.version, only_later })}
              />
              {words}
            </label>
          ))}
        </fieldset>
      )}
      {later.error && <ErrorNote error={later.error} />}
      {data?.counts && data.letters.length > 0 && (
        <fieldset className="mt-3">
          <legend className="field-label">Letters that are written otherwise by now</legend>
          {data.letters.map((letter) => (
            <div key={letter.letter_id}>
              <label className="flex gap-2 items-baseline py-0.5">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs self-center"
                  checked={words.includes(letter.letter_id)}
                  onChange={(event) =>
                    setWords(event.target.checked ? [...words, letter.letter_id] : words.filter((id) => id !== letter.letter_id))
                  }
                />
                “{letter.name}” goes out in its new words
              </label>
              <p className="pl-6">
                <Behind
                  {...{ sequence, proposal: data }}
                  kind="to_come"
                  of={letter.letter_id}
                  count={letter.to_come}
                  title={`Are to get “${letter.name}”`}
                >
                  {plural(letter.to_come, 'person', 'people')}
                </Behind>{' '}
                will get it
                {letter.may_come > 0 && (
                  <>
                    , and{' '}
                    <Behind
                      {...{ sequence, proposal: data }}
                      kind="may_come"
                      of={letter.letter_id}
                      count={letter.may_come}
                      title={`May come to “${letter.name}” by a lane`}
                    >
                      {letter.may_come} more
                    </Behind>{' '}
                    may come to it by a lane
                  </>
                )}
                {letter.gaps > 0 && (
                  <>
                    ,{' '}
                    <span className="text-error">
                      {letter.gaps_at_most ? 'up to ' : ''}
                      <Behind
                        {...{ sequence, proposal: data }}
                        kind="letter_gap"
                        of={letter.letter_id}
                        count={letter.gaps}
                        title={`“${letter.name}” may have a gap`}
                      >
                        {letter.gaps}
                      </Behind>{' '}
                      with a gap
                    </span>
                  </>
                )}
              </p>
            </div>
          ))}
        </fieldset>
      )}
      {effect.error && <ErrorNote error={effect.error} />}
      <div className="mt-4 flex justify-end gap-2">
        <button type="button" className="btn btn-sm btn-plain" onClick={onDone}>
          Not yet
        </button>
        {data?.counts && data.proposed && (
          <button
            type="button"
            className="btn btn-sm btn-primary"
            disabled={effect.isPending}
            onClick={() => effect.mutate(data)}
          >
            Let it take effect
          </button>
        )}
      </div>
    </Modal>
  )
}

/** A number of the proposal; opens its people. */
function Behind({
  sequence,
  proposal,
  kind,
  of,
  ...rest
}: {
  sequence: Shape<'Sequence'>
  proposal: Proposal
  kind: Kind | 'to_come' | 'may_come' | 'letter_gap' | 'step_gap'
  of?: number
  title: string
  count: number
  children: React.ReactNode
}) {
  return (
    <OpensPeople
      {...rest}
      queryKey={['proposal', sequence.id, kind, of, proposal.version]}
      load={(cursor) =>
        ask(
          api.GET('/api/sequences/{id}/proposal/people', { params: { path: { id: sequence.id }, query: { kind, of, cursor } } }),
        )
      }
    />
  )
}

/** Everybody on the way, each counted once, under what it means for them. */
function Numbers({
  sequence,
  proposal,
  counts,
}: {
  sequence: Shape<'Sequence'>
  proposal: Proposal
  counts: NonNullable<Proposal['counts']>
}) {
  const all = Object.values(counts).reduce((sum, count) => sum + count, 0)
  return (
    <>
      <p className="font-serif text-lg">
        {all === 0
          ? 'Nobody is on the way; whoever joins goes by the new plan.'
          : `Of ${plural(all, 'person', 'people')} on the way:`}
      </p>
      <ul className="my-2">
        {KINDS.filter(({ kind }) => counts[kind] > 0).map(({ kind, words }) => (
          <li key={kind} className="flex gap-2 py-0.5 border-b border-base-300/60">
            <span className="w-16 text-right font-semibold">
              <Behind {...{ sequence, proposal, kind }} count={counts[kind]} title={`${sequence.name}: ${words}`}>
                {counts[kind]}
              </Behind>
            </span>
            <span>{words}</span>
          </li>
        ))}
      </ul>
      {proposal.gaps?.map((one) => (
        <p key={one.step_id} className="bg-[var(--gap)] px-3 py-2 my-1">
          <strong className="text-error font-semibold">
            Up to{' '}
            <Behind
              {...{ sequence, proposal }}
              kind="step_gap"
              of={one.step_id}
              count={one.people}
              title={`“${one.words}” may have a gap`}
            >
              {plural(one.people, 'letter')}
            </Behind>
          </strong>{' '}
          of “{one.words}” would have a gap, and wait until it is filled.
        </p>
      ))}
      {proposal.out && proposal.out.length > 0 && (
        <p>Taken out: {proposal.out.map((step) => step.words).join(', ')}. Whoever has had it keeps it in their history.</p>
      )}
    </>
  )
}
