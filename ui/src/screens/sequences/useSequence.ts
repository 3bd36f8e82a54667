import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../api/client'
import { stale } from '../../app/stale'
import { useInTurn } from '../../app/useInTurn'

type Sequence = Shape<'Sequence'>
export type Change = {
  name?: string
  audience?: Shape<'Audience'>
  sender?: Shape<'Sender'>
  leave_on?: ('replied' | 'converted')[]
  steps?: Shape<'StepInput'>[]
}

/** One sequence, with the ways to change it. Every change carries the version that the one before left. */
export function useSequence(id: number) {
  const client = useQueryClient()
  const key = ['sequence', id] as const
  const query = useQuery({ queryKey: key, queryFn: () => ask(api.GET('/api/sequences/{id}', { params: { path: { id } } })) })
  const onSuccess = (sequence: Sequence) => {
    client.setQueryData(key, sequence)
    stale(client, 'sequence')
  }
  const change = useInTurn(
    key,
    query.data,
    (body: Change, version) => ask(api.PATCH('/api/sequences/{id}', { params: { path: { id } }, body: { ...body, version } })),
    // The page shows what is kept, so that the next change is made on that.
    { onSuccess, onError: () => client.invalidateQueries({ queryKey: key }) },
  )
  const start = useInTurn(
    key,
    query.data,
    (letters: number, version) =>
      ask(api.POST('/api/sequences/{id}/start', { params: { path: { id } }, body: { letters, version } })),
    { onSuccess, onError: () => client.invalidateQueries({ queryKey: ['ready', id] }) },
  )
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
