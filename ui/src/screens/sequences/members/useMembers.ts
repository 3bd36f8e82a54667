import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query'
import { api, ask } from '../../../api/client'

export type Sort = 'name' | 'company' | 'status' | 'place' | 'next' | 'joined'
export type State = 'active' | 'paused' | 'finished' | 'left'
export type Waits = 'time' | 'reaction' | 'nod' | 'outcome'
/** Which members are asked for. */
export type Asked = { words: string; status: string; place: string; sort: Sort; descending: boolean }

/** "step-5", "lane-7", "paused" or "nod", as the menu of places has them, for the server. */
export function placeQuery(place: string): { step_id?: number; lane_id?: number; state?: State; waits_for?: Waits } {
  const [kind, id] = place.split('-')
  if (kind === 'step') return { step_id: Number(id), state: 'active' }
  if (kind === 'lane') return { lane_id: Number(id) }
  if (kind === 'nod' || kind === 'reaction' || kind === 'outcome') return { waits_for: kind, state: 'active' }
  return place ? { state: place as State } : {}
}

export const some = ({ words, status, place }: Asked) => ({
  words: words.trim() || undefined,
  status: status || undefined,
  ...placeQuery(place),
})

/** Members of a sequence, a page at a time. */
export function useMembers(sequenceId: number, asked: Asked) {
  return useInfiniteQuery({
    queryKey: ['members', sequenceId, asked],
    queryFn: ({ pageParam, signal }) =>
      ask(
        api.GET('/api/sequences/{id}/members', {
          params: {
            path: { id: sequenceId },
            query: { ...some(asked), sort: asked.sort, descending: asked.descending || undefined, from: pageParam },
          },
          signal,
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (page, pages) => {
      const read = pages.reduce((sum, one) => sum + one.members.length, 0)
      return read < page.total ? read : undefined
    },
    placeholderData: keepPreviousData,
  })
}
