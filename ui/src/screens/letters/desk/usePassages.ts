import { useQuery } from '@tanstack/react-query'
import { api, ask } from '../../../api/client'

/** Passages kept for reuse, by name. */
export function usePassages() {
  return useQuery({ queryKey: ['passages'], queryFn: async () => (await ask(api.GET('/api/passages'))).passages })
}
