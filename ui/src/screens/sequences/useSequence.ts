import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../api/client'

type Sequence = Shape<'Sequence'>
export type Change = {
  name?: string
  audience?: Shape<'Audience'>
  sender?: Shape<'Sender'>
  leave_on?: ('replied' | 'converted')[]
  steps?: Shape<'StepInput'>[]
}

/** One sequence, with the ways to change it. Every change carries the version it was made on. */
export function useSequence(id: number) {
  const client = useQueryClient()
  const key = ['sequence', id]
  const query = useQuery({ queryKey: key, queryFn: () => ask(api.GET('/api/sequences/{id}', { params: { path: { id } } })) })
  const onSuccess = (sequence: Sequence) => {
    client.setQueryData(key, sequence)
    for (const stale of ['ready', 'sequences', 'stack', 'post', 'today', 'members', 'results'])
      client.invalidateQueries({ queryKey: [stale] })
  }
  const change = useMutation({
    mutationFn: (body: Change) => {
      const version = client.getQueryData<Sequence>(key)?.version ?? 0
      return ask(api.PATCH('/api/sequences/{id}', { params: { path: { id } }, body: { ...body, version } }))
    },
    onSuccess,
    // The page shows what is kept, so that the next change is made on that.
    onError: () => client.invalidateQueries({ queryKey: key }),
  })
  const start = useMutation({
    mutationFn: (letters: number) =>
      ask(
        api.POST('/api/sequences/{id}/start', {
          params: { path: { id } },
          body: { letters, version: client.getQueryData<Sequence>(key)?.version ?? 0 },
        }),
      ),
    onSuccess,
    onError: () => client.invalidateQueries({ queryKey: ['ready', id] }),
  })
  const move = useMutation({
    mutationFn: (name: 'pause' | 'resume' | 'stop') =>
      ask(api.POST('/api/sequences/{id}/move', { params: { path: { id } }, body: { move: name } })),
    onSuccess,
  })
  return { query, change, start, move }
}

/** A step as it is sent back. */
export function stepInput(step: Shape<'Step'>): Shape<'StepInput'> {
  const { id, letter_id, amount, unit, from_minute, to_minute, zone, other } = step
  return { id, letter_id: letter_id ?? null, amount, unit, from_minute, to_minute, zone, other: other ?? null }
}
