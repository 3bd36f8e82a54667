import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import type { FormEvent } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { plural } from '../../../app/format'
import { useDraft } from '../../../app/useDraft'
import { Modal } from '../../../parts/Modal'
import { ErrorNote } from '../../../parts/States'
import { PeopleCount } from '../behind/PeopleCount'
import type { View } from '../table/usePeople'

/** What saving another condition under this filter would mean. */
function Effect({ filter, condition }: { filter: Shape<'Filter'>; condition: Shape<'Condition'> }) {
  const { data: effect } = useQuery({
    queryKey: ['filters', filter.id, 'effect', condition],
    queryFn: () => ask(api.POST('/api/filters/{id}/effect', { params: { path: { id: filter.id } }, body: { condition } })),
  })
  if (!effect) return <p className="muted">Counting what would change…</p>
  const running = effect.used_in.filter((use) => use.state === 'running' || use.state === 'draft')
  return (
    <div className="border-l-2 border-accent bg-[var(--personal)] px-3 py-2">
      <p>
        <PeopleCount bare title={`${filter.name} now`} count={effect.now} condition={filter.condition} /> match now,{' '}
        <PeopleCount bare title={`${filter.name} then`} count={effect.then} condition={condition} /> would:{' '}
        <PeopleCount title="Would join" count={effect.join} condition={{ all: [condition, { not: filter.condition }] }}>
          {plural(effect.join, 'person', 'people')}
        </PeopleCount>{' '}
        would join,{' '}
        <PeopleCount bare title="Would leave" count={effect.leave} condition={{ all: [filter.condition, { not: condition }] }} />{' '}
        would leave.
      </p>
      {running.length > 0 && (
        <p>
          It is used by {running.map((use) => `“${use.name}”${use.state === 'draft' ? ' (a draft)' : ''}`).join(', ')}. Who is a
          member already stays one.
        </p>
      )}
    </div>
  )
}

/** Gives the condition a name, in place; or saves the change of one that has a name. */
export function SaveFilter({
  condition,
  sentence,
  view,
  changing,
  onClose,
  onSaved,
}: {
  condition: Shape<'Condition'>
  sentence?: string
  /** What of the table can be kept with it. */
  view?: View
  changing: Shape<'Filter'> | null
  onClose: () => void
  onSaved: (filter: Shape<'Filter'>) => void
}) {
  const client = useQueryClient()
  const [draft, setDraft, sent] = useDraft(changing ? `filter ${changing.id}, ${changing.version}` : 'a filter', {
    name: changing?.name ?? '',
    shared: changing?.shared ?? true,
    withView: Boolean(changing?.view),
  })
  const { name, shared, withView } = draft
  const kept = () => ({ name: name.trim(), condition, shared, ...(withView && view ? { view } : {}) })
  const done = (saved: Shape<'Filter'>) => {
    sent()
    client.invalidateQueries({ queryKey: ['filters'] })
    client.invalidateQueries({ queryKey: ['sequence'] })
    onSaved(saved)
  }
  const save = useMutation({
    mutationFn: (anew: boolean) =>
      changing && !anew
        ? ask(
            api.PATCH('/api/filters/{id}', {
              params: { path: { id: changing.id } },
              body: { ...kept(), version: changing.version },
            }),
          )
        : ask(api.POST('/api/filters', { body: kept() })),
    onSuccess: done,
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (name.trim()) save.mutate(false)
  }
  return (
    <Modal title={changing ? `Change “${changing.name}”` : 'Save as filter'} onClose={onClose}>
      <form onSubmit={submit} className="grid gap-3">
        {save.error && <ErrorNote error={save.error} />}
        <p className="font-serif text-base">{sentence}</p>
        {changing && <Effect filter={changing} condition={condition} />}
        <label>
          <span className="field-label">Name</span>
          <input className="text-field" value={name} onChange={(event) => setDraft({ ...draft, name: event.target.value })} />
        </label>
        <label className="flex gap-2 items-center">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={shared}
            onChange={(event) => setDraft({ ...draft, shared: event.target.checked })}
          />
          Colleagues see it too
        </label>
        {view && (
          <label className="flex gap-2 items-center">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={withView}
              onChange={(event) => setDraft({ ...draft, withView: event.target.checked })}
            />
            With these columns and this order
          </label>
        )}
        <p className="muted text-xs">A filter is always live: whoever fits later is in it.</p>
        <div className="flex justify-end gap-2">
          <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
            Not now
          </button>
          {changing && (
            <button
              type="button"
              className="btn btn-sm btn-plain"
              disabled={name.trim() === changing.name || save.isPending}
              title={name.trim() === changing.name ? 'Give it another name first' : undefined}
              onClick={() => save.mutate(true)}
            >
              Save as another
            </button>
          )}
          <button type="submit" className="btn btn-sm btn-primary" disabled={!name.trim() || save.isPending}>
            {changing ? 'Change it' : 'Save filter'}
          </button>
        </div>
      </form>
    </Modal>
  )
}
