import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, ask } from '../../api/client'
import { ErrorNote } from '../../parts/States'

const OUTCOMES = ['reached', 'not reached', 'left a message', 'call back']

/** A note, or a call with what came of it. */
export function NoteForm({ id }: { id: number }) {
  const client = useQueryClient()
  const [text, setText] = useState('')
  const [outcome, setOutcome] = useState('')
  const save = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/people/{id}/notes', {
          params: { path: { id } },
          body: outcome ? { kind: 'call', text, outcome } : { kind: 'note', text },
        }),
      ),
    onSuccess: () => {
      setText('')
      setOutcome('')
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
        onChange={(event) => setText(event.target.value)}
      />
      <select
        className="select select-sm w-36 bg-[var(--sheet)]"
        aria-label="A note, or a call"
        value={outcome}
        onChange={(event) => setOutcome(event.target.value)}
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
