import { useQuery } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../../api/client'

const STATES = { waiting: 'on its way', on_wire: 'on its way', sent: 'arrived', failed: 'did not go' } as const
const LOOK_MS = 700

/** The newest tests of a letter that somebody asked for themselves, the last one first; looked at until they have arrived. */
export function useTests(letterId: number) {
  return useQuery({
    queryKey: ['tests', letterId],
    queryFn: async () => (await ask(api.GET('/api/letters/{id}/tests', { params: { path: { id: letterId } } }))).tests,
    refetchInterval: (query) => (query.state.data?.some((test) => ['waiting', 'on_wire'].includes(test.state)) ? LOOK_MS : false),
  })
}

/** What became of it, in words. */
export const testState = ({ state, reason }: Shape<'TestLetter'>) => `${STATES[state]}${reason ? `: ${reason}` : ''}`
