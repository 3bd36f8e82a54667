import { useQuery, useQueryClient } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../../api/client'
import { stale } from '../../../app/stale'
import { useInTurn } from '../../../app/useInTurn'
import { useChanges } from '../useChanges'

type Sequence = Shape<'Sequence'>
/** How often it is looked whether a colleague has changed it, in milliseconds. */
const LOOK_EVERY = 15_000

/** What is changed here is the proposal: its version counts. */
const ofProposal = (sequence: Sequence): Sequence => ({ ...sequence, version: sequence.proposal?.version ?? 0 })

/** A sequence under way as it is proposed to be, shared with colleagues; every edit changes the proposal and nothing else. */
export function useProposal(sequence: Sequence, enabled: boolean) {
  const client = useQueryClient()
  const { id } = sequence
  const key = ['proposed', id] as const
  const path = { params: { path: { id } } }
  const query = useQuery({
    queryKey: key,
    queryFn: async () => ofProposal(await ask(api.GET('/api/sequences/{id}/proposal/plan', path))),
    enabled,
    refetchInterval: LOOK_EVERY,
  })
  const change = useChanges(
    key,
    query.data,
    async ({ steps, leave_on, leave_if, ends_at }, version) =>
      ofProposal(
        await ask(api.PUT('/api/sequences/{id}/proposal', { ...path, body: { steps, leave_on, leave_if, ends_at, version } })),
      ),
    () => stale(client, 'proposal'),
  )
  const discard = useInTurn(
    key,
    // One that cannot be laid out any more, since what it speaks of is gone, can still be discarded.
    query.data ?? ofProposal(sequence),
    async (_: undefined, version) =>
      ofProposal(await ask(api.POST('/api/sequences/{id}/proposal/discard', { ...path, body: { version } }))),
    {
      onSuccess: (sequence) => {
        client.setQueryData(key, sequence)
        stale(client, 'proposal')
      },
      onError: () => query.refetch(),
    },
  )
  return { query, change, discard }
}
