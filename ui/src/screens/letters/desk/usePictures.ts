import { useQuery } from '@tanstack/react-query'
import { api, ask } from '../../../api/client'

/** The library of pictures, newest first. */
export function usePictures() {
  return useQuery({ queryKey: ['pictures'], queryFn: async () => (await ask(api.GET('/api/pictures'))).pictures })
}
