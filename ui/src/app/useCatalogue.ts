import { useQuery } from '@tanstack/react-query'
import { api, ask } from '../api/client'

/** Fields, operators and the values people choose from. */
export function useCatalogue() {
  return useQuery({ queryKey: ['catalogue'], queryFn: () => ask(api.GET('/api/catalogue')), staleTime: 15_000 })
}
