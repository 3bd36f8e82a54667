import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { api, ask, type Shape } from '../api/client'
import { itIs } from './format'

const QUIET_MS = 5000
const MOVING_MS = 400

/** What goes out next, and the moves that hold it all. */
export function usePostMoves() {
  const client = useQueryClient()
  const { data: post } = useQuery({ queryKey: ['post'], queryFn: () => ask(api.GET('/api/post')), refetchInterval: QUIET_MS })
  const done = (answer: Shape<'Post'>) => {
    client.setQueryData(['post'], answer)
    client.invalidateQueries({ queryKey: ['today'] })
    client.invalidateQueries({ queryKey: ['ready'] })
  }
  const hold = useMutation({ mutationFn: () => ask(api.POST('/api/post/hold')), onSuccess: done })
  const release = useMutation({ mutationFn: () => ask(api.POST('/api/post/release')), onSuccess: done })
  return { post, hold, release }
}

async function readClock() {
  const clock = await ask(api.GET('/api/practice/clock'))
  itIs(clock.now)
  return clock
}

/** The practice clock. Everything on the page is read again when it has moved. */
export function usePracticeClock() {
  const client = useQueryClient()
  const { data: clock } = useQuery({
    queryKey: ['clock'],
    queryFn: readClock,
    refetchInterval: (query) => (query.state.data?.target ? MOVING_MS : QUIET_MS),
  })
  const forward = useMutation({
    mutationFn: (step: 'hour' | 'day' | 'next') => ask(api.POST('/api/practice/clock', { body: { forward: step } })),
    onSuccess: (answer) => client.setQueryData(['clock'], answer),
  })
  const last = useRef(clock?.now)
  useEffect(() => {
    if (clock && last.current && clock.now !== last.current)
      client.invalidateQueries({ predicate: (query) => query.queryKey[0] !== 'clock' && query.queryKey[0] !== 'session' })
    last.current = clock?.now
  }, [clock, client])
  return { clock, moving: Boolean(clock?.target), forward }
}

/** Now, by the clock in use. */
export function useNow(): string {
  const { data } = useQuery({ queryKey: ['clock'], queryFn: readClock })
  return data?.now ?? '2026-01-01T00:00:00Z'
}
