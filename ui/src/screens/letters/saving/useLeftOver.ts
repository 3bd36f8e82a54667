import { useQuery } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../../api/client'
import { dropBackup, readBackup } from './backup'
import type { Draft } from './draft'

/**
 * What was typed on this machine and never reached the server. On the letter as it was it goes on where it stopped; on a
 * newer one it is kept among the versions first, and stays here until it is.
 */
export function useLeftOver(id: number, letter: Shape<'Letter'> | undefined) {
  return useQuery({
    queryKey: ['left-over', id],
    enabled: letter !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
    queryFn: async (): Promise<{ draft: Draft | null }> => {
      const kept = readBackup(id)
      if (!kept) return { draft: null }
      if (kept.version === letter?.version) return { draft: kept.draft }
      const { set_aside: _, archived: __, ...content } = kept.draft
      await ask(api.POST('/api/letters/{id}/versions', { params: { path: { id } }, body: content }))
      dropBackup(id)
      return { draft: null }
    },
  })
}
