import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask } from '../../../api/client'

const EVERY_MS = 5_000

/** Who else has this letter open just now, and which version of it is the newest. */
export function usePresence(letterId: number) {
  const [tab] = useState(() => crypto.randomUUID?.() ?? String(Math.random()))
  const { data } = useQuery({
    queryKey: ['presence', letterId, tab],
    queryFn: () => ask(api.POST('/api/letters/{id}/presence', { params: { path: { id: letterId } }, body: { tab } })),
    refetchInterval: EVERY_MS,
    retry: false,
  })
  return { others: data?.others ?? [], newest: data?.version ?? 0 }
}
