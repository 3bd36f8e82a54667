import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask } from '../../../api/client'
import { plural } from '../../../app/format'
import { stale } from '../../../app/stale'
import { Modal } from '../../../parts/Modal'
import { ErrorNote, Loading } from '../../../parts/States'

/** What was written in a letter under way, let take effect in one sequence: first with its numbers. */
export function NewWords({ letterId, sequence }: { letterId: number; sequence: { id: number; name: string } }) {
  const [asked, setAsked] = useState(false)
  return (
    <>
      <button type="button" className="link" onClick={() => setAsked(true)}>
        Let the new words take effect in “{sequence.name}” …
      </button>
      {asked && <Question letterId={letterId} sequence={sequence} onDone={() => setAsked(false)} />}
    </>
  )
}

function Question({
  letterId,
  sequence,
  onDone,
}: {
  letterId: number
  sequence: { id: number; name: string }
  onDone: () => void
}) {
  const client = useQueryClient()
  const path = { params: { path: { id: sequence.id } } }
  const proposal = useQuery({
    queryKey: ['proposal', sequence.id],
    queryFn: () => ask(api.GET('/api/sequences/{id}/proposal', path)),
    staleTime: 0,
  })
  const letter = proposal.data?.letters.find((one) => one.letter_id === letterId)
  const effect = useMutation({
    mutationFn: ({ proposed, version }: { proposed: number; version: number }) =>
      ask(
        api.POST('/api/sequences/{id}/proposal/effect', {
          ...path,
          body: { version: proposed, letters: [{ letter_id: letterId, version }], proposed: false },
        }),
      ),
    onSuccess: () => {
      client.invalidateQueries({ queryKey: ['letter', letterId] })
      stale(client, 'letter')
      onDone()
    },
    onError: () => proposal.refetch(),
  })
  return (
    <Modal title="Let the new words take effect" onClose={onDone}>
      {proposal.error && <ErrorNote error={proposal.error} />}
      {proposal.isPending && <Loading />}
      {proposal.data && !letter && <p>These are the words that go out already.</p>}
      {letter && (
        <p>
          {plural(letter.to_come, 'letter', 'letters')} of “{sequence.name}” that {letter.to_come === 1 ? 'is' : 'are'} still to
          go {letter.to_come === 1 ? 'says' : 'say'} this from now on. Nobody gets one sooner or later for it, and nobody gets it
          twice.
        </p>
      )}
      {letter && letter.gaps > 0 && (
        <p className="mt-2">
          {letter.gaps_at_most ? 'Up to ' : ''}
          {letter.gaps} of them {letter.gaps === 1 ? 'has' : 'have'} a gap in these words, and would be set aside.
        </p>
      )}
      {effect.error && <ErrorNote error={effect.error} />}
      <div className="mt-4 flex justify-end gap-2">
        <button type="button" className="btn btn-sm btn-plain" onClick={onDone}>
          Not yet
        </button>
        {letter && (
          <button
            type="button"
            data-first
            className="btn btn-sm btn-primary"
            disabled={effect.isPending}
            onClick={() => effect.mutate({ proposed: proposal.data?.version ?? 0, version: letter.version })}
          >
            Let it take effect
          </button>
        )}
      </div>
    </Modal>
  )
}
