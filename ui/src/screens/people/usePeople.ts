import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../api/client'

/** Pages of people for a condition and the words of the quick search; an overtaken question is called off. */
export function usePeople(condition: Shape<'Condition'>, words: string) {
  return useInfiniteQuery({
    queryKey: ['people', condition, words],
    queryFn: ({ pageParam, signal }) =>
      ask(api.POST('/api/people/search', { body: { condition, words, cursor: pageParam }, signal })),
    initialPageParam: null as string | null,
    getNextPageParam: (page) => page.next_cursor ?? null,
    placeholderData: keepPreviousData,
  })
}

export function useSieve(audience: Shape<'Audience'>) {
  return useQuery({
    queryKey: ['sieve', audience],
    queryFn: ({ signal }) => ask(api.POST('/api/audience/sieve', { body: { audience }, signal })),
    placeholderData: keepPreviousData,
  })
}

export function useFilters() {
  return useQuery({ queryKey: ['filters'], queryFn: async () => (await ask(api.GET('/api/filters'))).filters })
}
