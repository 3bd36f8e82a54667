import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../api/client'
import { whileAway } from '../../app/away'
import { stale } from '../../app/stale'
import { useInTurn } from '../../app/useInTurn'
import { useChanges } from './useChanges'

type Sequence = Shape<'Sequence'>
/** How often a sequence that runs is looked at. */
export const LOOKS_MS = 10_000

/** One sequence, with the ways to change it. Every change carries the version that the one before left. */
export function useSequence(id: number) {
  const client = useQueryClient()
  const key = ['sequence', id] as const
  const query = useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET('/api/sequences/{id}', { params: { path: { id } } })),
    // People join, and letters leave, while one looks on.
    refetchInterval: ({ state }) => whileAway(state.error) || (state.data?.state === 'running' && LOOKS_MS),
  })
  const onSuccess = (sequence: Sequence) => {
    client.setQueryData(key, sequence)
    stale(client, 'sequence')
  }
  const change = useChanges(
    key,
    query.data,
    (body, version) => ask(api.PATCH('/api/sequences/{id}', { params: { path: { id } }, body: { ...body, version } })),
    () => stale(client, 'sequence'),
  )
  const start = useInTurn(
    key,
    query.data,
    ({ letters, gaps, joining, seen, at, undo }: ReadBack & { at?: string; undo?: true }, version) =>
      ask(
        api.POST('/api/sequences/{id}/start', {
          params: { path: { id } },
          body: { letters, gaps, joining, version, ...(seen ? { seen } : {}), ...(at ? { at } : {}), ...(undo ? { undo } : {}) },
        }),
      ),
    {
      onSuccess,
      // Somebody else may have started it, or this page without hearing of it.
      onError: () => {
        client.invalidateQueries({ queryKey: ['ready', id] })
        client.invalidateQueries({ queryKey: key })
      },
    },
  )
  const move = useMutation({
    mutationFn: (name: 'pause' | 'resume' | 'stop') =>
      ask(api.POST('/api/sequences/{id}/move', { params: { path: { id } }, body: { move: name } })),
    onSuccess,
  })
  const notYet = useInTurn(
    key,
    query.data,
    (_: undefined, version) => ask(api.POST('/api/sequences/{id}/not-yet', { params: { path: { id } }, body: { version } })),
    { onSuccess },
  )
  return { query, change, start, move, notYet }
}

/** The numbers that were read back before the start, and the digest that came with them. */
export type ReadBack = Pick<Shape<'Ready'>, 'letters' | 'gaps' | 'joining' | 'seen'>
