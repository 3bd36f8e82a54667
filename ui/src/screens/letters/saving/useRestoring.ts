import { type UseMutationResult, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { ApiProblem } from '../../../api/client'
import { stale } from '../../../app/stale'
import type { Kept, Version } from './kept'

/** Going back to a version of one text, or forth again. */
export type Restoring = {
  kept: Pick<Kept, 'kind' | 'versions' | 'compare'>
  id: number
  restore: UseMutationResult<unknown, Error, number>
}

/** What a text was, and where one stands among that. */
export function useVersions(kept: Restoring['kept'], id: number) {
  return useQuery({ queryKey: ['versions', kept.kind, id], queryFn: () => kept.versions(id) })
}

/**
 * @param writing the autosave of the text: what waits is saved first, so that it is a version too; nobody goes back without
 * @param onRestored shows the text anew
 */
export function useRestoring<D extends object, R extends Version>(
  kept: Kept<D, R>,
  id: number,
  writing: { flush: () => Promise<unknown>; unsaved: () => boolean; version: () => number },
  onRestored: () => void,
): Restoring {
  const client = useQueryClient()
  const restore = useMutation({
    scope: { id: `restore ${kept.kind} ${id}` },
    mutationFn: async (number: number) => {
      await writing.flush()
      if (writing.unsaved())
        throw new ApiProblem(0, 'unsaved', 'What you typed is not saved yet.', 'One can go back as soon as it is.')
      return kept.restore(id, number, writing.version())
    },
    onSuccess: (saved) => {
      client.setQueryData([kept.kind, id], saved)
      stale(client, kept.kind)
      onRestored()
    },
  })
  return { kept, id, restore }
}
