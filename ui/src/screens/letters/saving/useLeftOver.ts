import { useQuery } from '@tanstack/react-query'
import { dropBackup, readBackup } from './backup'
import type { Kept, Version } from './kept'

/**
 * What was typed on this machine and never reached the server. On the text as it was it goes on where it stopped; on a newer
 * one it is kept among the versions first, and stays here until it is.
 */
export function useLeftOver<D extends object, R extends Version>(kept: Kept<D, R>, id: number, record: R | undefined) {
  return useQuery({
    queryKey: ['left-over', kept.kind, id],
    enabled: record !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
    queryFn: async (): Promise<{ draft: D | null }> => {
      const left = readBackup<D>(kept.kind, id)
      if (!left) return { draft: null }
      if (left.version === record?.version) return { draft: left.draft }
      await kept.setAside(id, left.draft)
      dropBackup(kept.kind, id)
      return { draft: null }
    },
  })
}
