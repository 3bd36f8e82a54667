import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { stale } from '../../app/stale'
import { useInTurn } from '../../app/useInTurn'
import { shown } from './plan/plan'

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
  const under = useRef(0)
  const saving = useInTurn(
    key,
    query.data,
    (body: Change, version) => ask(api.PATCH('/api/sequences/{id}', { params: { path: { id } }, body: { ...body, version } })),
    {
      // What was changed since is on the page already, and on its way.
      onSuccess: (sequence) => {
        under.current -= 1
        if (under.current === 0) onSuccess(sequence)
      },
      onError: () => {
        under.current -= 1
        client.invalidateQueries({ queryKey: key })
      },
    },
  )
  // Shown before it is saved, so that the next change is made on it, however quickly one follows the other.
  const change = {
    error: saving.error,
    mutate: (body: Change) => {
      under.current += 1
      client.setQueryData<Sequence>(key, (kept) => kept && changed(kept, body))
      saving.mutate(body)
    },
  }
  const start = useInTurn(
    key,
    query.data,
    ({ letters, seen, at }: ReadBack & { at?: string }, version) =>
      ask(
        api.POST('/api/sequences/{id}/start', {
          params: { path: { id } },
          body: { letters, version, ...(seen ? { seen } : {}), ...(at ? { at } : {}) },
        }),
      ),
    { onSuccess, onError: () => client.invalidateQueries({ queryKey: ['ready', id] }) },
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
export type ReadBack = Pick<Shape<'Ready'>, 'letters' | 'seen'>

/** A sequence as it will be; steps that are new wait for their number. */
function changed(kept: Sequence, { steps, ...rest }: Change): Sequence {
  return { ...kept, ...rest, steps: (steps && shown(kept.steps, steps)) ?? kept.steps }
}
