import { useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { api, ask } from '../../../api/client'

const EVERY_MS = 5_000
/** This page, for as long as it is open: a letter that is shown anew is not another of its tabs. */
const TAB = crypto.randomUUID?.() ?? String(Math.random())

/**
 * Who else has this letter open just now, and which version of it is the newest. They hear at once when one leaves it.
 * @param letterId none before it has come
 */
export function usePresence(letterId: number | undefined) {
  const { data } = useQuery({
    queryKey: ['presence', letterId],
    enabled: letterId !== undefined,
    queryFn: () => say(letterId as number),
    refetchInterval: EVERY_MS,
    retry: false,
    gcTime: 0,
  })
  useEffect(() => {
    if (letterId === undefined) return
    const leave = () => void say(letterId, true).catch(() => undefined) // whoever says nothing is gone a little later
    window.addEventListener('pagehide', leave)
    return () => {
      window.removeEventListener('pagehide', leave)
      leave()
    }
  }, [letterId])
  return { others: data?.others ?? [], newest: data?.version ?? 0 }
}

/** @param leaves what a page that shuts still gets across, with keepalive */
function say(id: number, leaves = false) {
  return ask(
    api.POST('/api/letters/{id}/presence', {
      params: { path: { id } },
      body: leaves ? { tab: TAB, leaves } : { tab: TAB },
      keepalive: leaves,
    }),
  )
}
