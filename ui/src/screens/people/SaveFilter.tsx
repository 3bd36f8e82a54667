import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { Modal } from '../../parts/Modal'
import { ErrorNote } from '../../parts/States'

/** Gives the condition a name, in place. */
export function SaveFilter({
  condition,
  sentence,
  onClose,
  onSaved,
}: {
  condition: Shape<'Condition'>
  sentence?: string
  onClose: () => void
  onSaved: (filter: Shape<'Filter'>) => void
}) {
  const client = useQueryClient()
  const [name, setName] = useState('')
  const save = useMutation({
    mutationFn: () => ask(api.POST('/api/filters', { body: { name, condition } })),
    onSuccess: (filter) => {
      client.invalidateQueries({ queryKey: ['filters'] })
      onSaved(filter)
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    save.mutate()
  }
  return (
    <Modal title="Save as filter" onClose={onClose}>
      <form onSubmit={submit}>
        <p className="font-serif text-base muted mb-3">{sentence}</p>
        {save.error && <ErrorNote error={save.error} />}
        <label className="field-label" htmlFor="filter-name">
          Name
        </label>
        <input
          id="filter-name"
          className="text-field"
          required
          maxLength={120}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <p className="muted text-xs mt-2">A filter is always live: whoever matches later is in it.</p>
        <div className="mt-4 flex justify-end gap-2">
          <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
            Not now
          </button>
          <button type="submit" className="btn btn-sm btn-primary" disabled={save.isPending}>
            Save filter
          </button>
        </div>
      </form>
    </Modal>
  )
}
