import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { api, ask, type Shape } from '../api/client'

type Audience = Shape<'Audience'>

/** Makes a letter to somebody, or a sequence that is still empty, and goes there. */
export function useCreate() {
  const navigate = useNavigate()
  const client = useQueryClient()
  const make = (body: { name?: string; audience?: Audience; letter?: { letter_id?: number; copy?: boolean } }) =>
    ask(api.POST('/api/sequences', { body }))
  const onSuccess = (made: Shape<'Sequence'>) => {
    client.setQueryData(['sequence', made.id], made)
    client.invalidateQueries({ queryKey: ['sequences'] })
    navigate(`/sequences/${made.id}`)
  }
  const letter = useMutation({
    mutationFn: (to: { audience?: Audience; letter_id?: number; copy?: boolean }) =>
      make({ audience: to.audience, letter: { letter_id: to.letter_id, copy: to.copy } }),
    onSuccess: (made) => {
      client.invalidateQueries({ queryKey: ['letters'] })
      client.invalidateQueries({ queryKey: ['catalogue'] })
      onSuccess(made)
    },
  })
  const sequence = useMutation({ mutationFn: make, onSuccess })
  return { letter, sequence }
}
