import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../../api/client'

export type Rehearsal = Shape<'Rehearsal'>
export type Assumed = Pick<Shape<'Assumed'>, 'assume' | 'rates' | 'seed'>

/** How a sequence would go under an assumption. */
export function useRehearsal(id: number, version: number, assumed: Assumed) {
  return useQuery({
    queryKey: ['rehearsal', id, version, assumed],
    queryFn: async () =>
      (await ask(api.POST('/api/sequences/{id}/rehearsal', { params: { path: { id } }, body: assumed }))) as Rehearsal,
    placeholderData: keepPreviousData,
    // It is asked about by its number as long as it is shown.
    staleTime: Number.POSITIVE_INFINITY,
  })
}

/** The people behind a number of it. */
export const loadBehind =
  (id: number, run: string, assumed: Assumed, asked: object) =>
  (cursor?: string): Promise<Shape<'PeoplePage'>> =>
    ask(
      api.POST('/api/sequences/{id}/rehearsal/people', {
        params: { path: { id } },
        body: { ...assumed, run, ...asked, ...(cursor ? { cursor } : {}) },
      }),
    )
