import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, ask } from '../../api/client'
import { useCatalogue } from '../../app/useCatalogue'
import { ErrorNote } from '../../parts/States'

/** Fills a gap in the person's record, without leaving the stack. */
export function MendGap({ personId, field, onClose }: { personId: number; field: string; onClose: () => void }) {
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
      for (const key of ['stack', 'people', 'sequence', 'ready', 'history']) client.invalidateQueries({ queryKey: [key] })
      onClose()
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    mend.mutate()
  }
  return (
    <form onSubmit={submit} className="border-l-2 border-error bg-[var(--gap)] p-3 mb-2.5">
      {mend.error && <ErrorNote error={mend.error} />}
      {key ? (
        <>
          <label className="field-label !text-base-content" htmlFor="mend">
            {label} of {person?.name}, kept in the record
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
            <button type="submit" className="btn btn-sm btn-primary" disabled={!value.trim() || !person || mend.isPending}>
              Mend
            </button>
          </div>
        </>
      ) : (
        <p>{label} comes from elsewhere; give this person an owner, or the field a fallback in the letter.</p>
      )}
    </form>
  )
}
