import { useMutation, useQueryClient } from '@tanstack/react-query'
import type { FormEvent } from 'react'
import { api, ask } from '../../api/client'
import { useDraft } from '../../app/useDraft'
import { ErrorNote } from '../../parts/States'

const OUTCOMES = ['reached', 'not reached', 'left a message', 'call back']

const NOTHING = { text: '', outcome: '' }

/** A note, or a call with what came of it; half-typed it is there again when one comes back. */
export function NoteForm({ id }: { id: number }) {
  const client = useQueryClient()
  const [{ text, outcome }, type, sent] = useDraft(`note ${id}`, NOTHING)
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/people/{id}/notes', {
          params: { path: { id } },
          body: outcome ? { kind: 'call', text, outcome } : { kind: 'note', text },
        }),
      ),
    onSuccess: () => {
      sent()
      client.invalidateQueries({ queryKey: ['history', id] })
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (text.trim()) save.mutate()
  }
  return (
    <form onSubmit={submit} className="flex gap-2 mb-3">
      <input
        id="note"
        className="text-field"
        aria-label="Note"
        placeholder="Note a call, a visit, anything worth keeping"
        value={text}
        onChange={(event) => type({ text: event.target.value, outcome })}
      />
      <select
        className="select select-sm w-36 bg-[var(--sheet)]"
        aria-label="A note, or a call"
        value={outcome}
        onChange={(event) => type({ text, outcome: event.target.value })}
      >
        <option value="">Note</option>
        {OUTCOMES.map((one) => (
          <option key={one} value={one}>
            Call: {one}
          </option>
        ))}
      </select>
      <button type="submit" className="btn btn-sm btn-plain" disabled={!text.trim() || save.isPending}>
        {outcome ? 'Log call' : 'Keep note'}
      </button>
      {save.error && <ErrorNote error={save.error} />}
    </form>
  )
}
