import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { api, ask } from '../../api/client'
import { number } from '../../app/format'
import { ErrorNote } from '../../parts/States'

/** Makes a draft for those who had a letter and neither opened, clicked nor replied, and goes there. */
export function useWriteAgain() {
  const client = useQueryClient()
  const navigate = useNavigate()
  return useMutation({
    mutationFn: (to: { sequence: number; step?: number } | { letter: number }) =>
      'letter' in to
        ? ask(api.POST('/api/letters/{id}/write-again', { params: { path: { id: to.letter } } }))
        : ask(
            api.POST('/api/sequences/{id}/write-again', {
              params: { path: { id: to.sequence } },
              body: { step_id: to.step ?? null },
            }),
          ),
    onSuccess: (made) => {
      client.setQueryData(['sequence', made.id], made)
      client.invalidateQueries({ queryKey: ['sequences'] })
      navigate(`/sequences/${made.id}`)
    },
  })
}

/** One move to write once more to the quiet ones of a sequence, or of one of its letters. */
export function WriteAgain({ sequenceId, stepId, count }: { sequenceId: number; stepId?: number; count: number }) {
  const again = useWriteAgain()
  if (count === 0) return null
  return (
    <>
      <button
        type="button"
        className="btn btn-xs btn-plain whitespace-nowrap"
        title="They had it, and neither opened, clicked nor replied"
        disabled={again.isPending}
        onClick={() => again.mutate({ sequence: sequenceId, ...(stepId ? { step: stepId } : {}) })}
      >
        Write to the {number(count)} quiet
      </button>
      {again.error && <ErrorNote error={again.error} />}
    </>
  )
}
