import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, ask } from '../../api/client'
import { stale } from '../../app/stale'
import { useCatalogue } from '../../app/useCatalogue'
import { ErrorNote } from '../../parts/States'

/** Fills a gap in the person's record or in this letter only, without leaving the stack. */
export function MendGap({
  stepId,
  personId,
  field,
  onClose,
  onDone = onClose,
}: {
  stepId: number
  personId: number
  field: string
  onClose: () => void
  /** Once it is filled. */
  onDone?: () => void
}) {
  const client = useQueryClient()
  const { data: catalogue } = useCatalogue()
  const { data: person } = useQuery({
    queryKey: ['person', personId],
    queryFn: () => ask(api.GET('/api/people/{id}', { params: { path: { id: personId } } })),
  })
  const [value, setValue] = useState('')
  const label = catalogue?.fields.find((one) => one.key === field)?.label ?? field
  const found = catalogue?.fields.find((one) => one.key === field)
  const key =
    field === 'company.name' ? 'person.company' : found?.subject === 'person' && found.uses.includes('import') ? field : null
  const mend = useMutation({
    mutationFn: () =>
      ask(
        api.PATCH('/api/people/{id}', {
          params: { path: { id: personId } },
          body: { values: { [key ?? '']: value }, version: person?.version ?? 0 },
        }),
      ),
    onSuccess: (saved) => {
      client.setQueryData(['person', personId], saved)
      stale(client, 'person')
      onDone()
    },
  })
  const fill = useMutation({
    mutationFn: () =>
      ask(
        api.PUT('/api/steps/{id}/stack/{person_id}/fills', {
          params: { path: { id: stepId, person_id: personId } },
          body: { field, value },
        }),
      ),
    onSuccess: () => {
      stale(client, 'line')
      onDone()
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (key) mend.mutate()
    else fill.mutate()
  }
  return (
    <form onSubmit={submit} className="border-l-2 border-error bg-[var(--gap)] p-3 mb-2.5">
      {mend.error && <ErrorNote error={mend.error} />}
      {fill.error && <ErrorNote error={fill.error} />}
      <label className="field-label !text-base-content" htmlFor="mend">
        {label} of {person?.name}
      </label>
      <div className="flex gap-2">
        <input
          id="mend"
          // biome-ignore lint/a11y/noAutofocus: it opens on a click, to be typed into
          autoFocus
          className="text-field"
          value={value}
          onChange={(event) => setValue(event.target.value)}
          onKeyDown={(event) => event.key === 'Escape' && onClose()}
        />
        {key && (
          <button type="submit" className="btn btn-sm btn-primary" disabled={!value.trim() || !person || mend.isPending}>
            Into the record
          </button>
        )}
        <button
          type={key ? 'button' : 'submit'}
          className="btn btn-sm btn-plain"
          disabled={!value.trim() || fill.isPending}
          onClick={key ? () => fill.mutate() : undefined}
        >
          Only in this letter
        </button>
      </div>
    </form>
  )
}
