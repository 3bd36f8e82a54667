import { useMutation, useQueryClient } from '@tanstack/react-query'
import type { FormEvent } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { plural } from '../../../app/format'
import { useDraft } from '../../../app/useDraft'
import { Modal } from '../../../parts/Modal'
import { ErrorNote } from '../../../parts/States'

/** Keeps people, as they are found now, as a list. */
export function KeepList({
  people,
  count,
  madeFrom,
  onClose,
  onKept,
}: {
  people: Shape<'Chosen'>
  count: number
  madeFrom?: string
  onClose: () => void
  onKept: () => void
}) {
  const client = useQueryClient()
  const [name, setName, sent] = useDraft('name of a list', '')
  const keep = useMutation({
    mutationFn: () =>
      ask(api.POST('/api/lists', { body: { name: name.trim(), from: people, made_from: madeFrom?.slice(0, 300) } })),
    onSuccess: () => {
      sent()
      client.invalidateQueries({ queryKey: ['catalogue'] })
      onKept()
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    keep.mutate()
  }
  return (
    <Modal title={`Keep ${plural(count, 'person', 'people')} as a list`} onClose={onClose}>
      <form onSubmit={submit} className="grid gap-3">
        {keep.error && <ErrorNote error={keep.error} />}
        <label>
          <span className="field-label">Name of the list</span>
          <input className="text-field" value={name} onChange={(event) => setName(event.target.value)} />
        </label>
        <p className="muted text-xs">A list stays as it is until somebody changes it. A filter would stay current by itself.</p>
        <div className="flex justify-end gap-2">
          <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
            Not now
          </button>
          <button type="submit" className="btn btn-sm btn-primary" disabled={!name.trim() || keep.isPending}>
            Keep the list
          </button>
        </div>
      </form>
    </Modal>
  )
}
