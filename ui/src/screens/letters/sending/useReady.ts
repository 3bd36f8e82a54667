import { useQuery } from '@tanstack/react-query'
import { api, ask } from '../../../api/client'

/** What sending would do, and what is missing before: looked at each time somebody asks for it. */
export function useReady(sequenceId: number, enabled = true) {
  return useQuery({
    queryKey: ['ready', sequenceId],
    queryFn: ({ signal }) => ask(api.GET('/api/sequences/{id}/ready', { params: { path: { id: sequenceId } }, signal })),
    enabled,
    staleTime: 0,
  })
}
