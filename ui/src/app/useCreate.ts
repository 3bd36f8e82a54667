import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { api, ask, type Shape } from '../api/client'

/** Makes a letter or a sequence and goes there. */
export function useCreate() {
  const navigate = useNavigate()
  const client = useQueryClient()
  const letter = useMutation({
    mutationFn: () => ask(api.POST('/api/letters', { body: {} })),
    onSuccess: (made) => {
      client.invalidateQueries({ queryKey: ['letters'] })
      client.invalidateQueries({ queryKey: ['catalogue'] })
      navigate(`/letters/${made.id}`)
    },
  })
  const sequence = useMutation({
    mutationFn: (body: { name?: string; audience?: Shape<'Audience'> }) => ask(api.POST('/api/sequences', { body })),
    onSuccess: (made) => {
      client.invalidateQueries({ queryKey: ['sequences'] })
      navigate(`/sequences/${made.id}`)
    },
  })
  return { letter, sequence }
}
