import { useMutation } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { useTellChange } from '../../../app/changes'
import { plural } from '../../../app/format'
import { MenuList } from '../../../parts/MenuList'
import { Modal } from '../../../parts/Modal'
import { Popover } from '../../../parts/Popover'
import { ErrorNote } from '../../../parts/States'
import type { View } from '../table/usePeople'
import { ActFields } from './ActFields'
import { JoinDialog } from './JoinDialog'
import { saveExport } from './saveExport'

type Kind = Shape<'Act'>['kind'] | 'join' | 'csv' | 'xlsx' | 'vcard'
const ACTS: { value: Kind; words: string }[] = [
  { value: 'tag', words: 'Tag' },
  { value: 'untag', words: 'Take a tag off' },
  { value: 'list', words: 'Put on a list' },
  { value: 'unlist', words: 'Take off a list' },
  { value: 'owner', words: 'Give to an owner' },
  { value: 'standing', words: 'Set standing' },
  { value: 'field', words: 'Set a field' },
  { value: 'consent', words: 'Note consent' },
  { value: 'do_not_mail', words: 'Do not mail' },
  { value: 'join', words: 'Add to a sequence' },
  { value: 'csv', words: 'Export as CSV' },
  { value: 'xlsx', words: 'Export as XLSX' },
  { value: 'vcard', words: 'Export as vCard' },
  { value: 'bin', words: 'Put in the bin' },
]
const BIN_ACTS: { value: Kind; words: string }[] = [{ value: 'restore', words: 'Take out of the bin' }]
const BUTTON: Partial<Record<Kind, string>> = {
  bin: 'Put in the bin',
  restore: 'Take out of the bin',
  do_not_mail: 'Do not mail',
}

/** Everything that can be done with the people chosen. */
export function DoMany({
  people,
  count,
  view,
  catalogue,
  binned = false,
  onDone,
}: {
  people: Shape<'Chosen'>
  count: number
  view: View
  catalogue: Shape<'Catalogue'>
  binned?: boolean
  onDone: () => void
}) {
  const [act, setAct] = useState<Kind | null>(null)
  const exporting = useMutation({
    mutationFn: (format: 'csv' | 'xlsx' | 'vcard') =>
      saveExport({
        people,
        format,
        columns: ['person.name', 'person.email', ...view.columns.filter((key) => key !== 'person.email')],
        sort: view.sort,
      }),
  })
  return (
    <>
      <Popover words="Do with them…" label="Do with the people chosen" className="btn btn-sm btn-plain">
        {(shut) => (
          <MenuList
            items={binned ? BIN_ACTS : ACTS}
            onPick={(kind) => {
              shut()
              if (kind === 'csv' || kind === 'xlsx' || kind === 'vcard') exporting.mutate(kind)
              else setAct(kind)
            }}
          />
        )}
      </Popover>
      {exporting.isPending && <span className="muted">Writing the file…</span>}
      {exporting.error && <ErrorNote error={exporting.error} />}
      {act === 'join' && <JoinDialog people={people} onClose={() => setAct(null)} />}
      {act && act !== 'join' && (
        <ActDialog
          kind={act as Shape<'Act'>['kind']}
          people={people}
          count={count}
          catalogue={catalogue}
          onClose={() => setAct(null)}
          onDone={() => {
            setAct(null)
            onDone()
          }}
        />
      )}
    </>
  )
}

function ActDialog({
  kind,
  people,
  count,
  catalogue,
  onClose,
  onDone,
}: {
  kind: Shape<'Act'>['kind']
  people: Shape<'Chosen'>
  count: number
  catalogue: Shape<'Catalogue'>
  onClose: () => void
  onDone: () => void
}) {
  const tell = useTellChange()
  const [act, setAct] = useState<Shape<'Act'>>({ kind, ...(kind === 'do_not_mail' ? { value: true } : {}) })
  const run = useMutation({
    mutationFn: () => ask(api.POST('/api/changes', { body: { act, people } })),
    onSuccess: (change) => {
      tell(change)
      onDone()
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    run.mutate()
  }
  const title = [...ACTS, ...BIN_ACTS].find((one) => one.value === kind)?.words ?? ''
  return (
    <Modal title={`${title}: ${plural(count, 'person', 'people')}`} onClose={onClose}>
      <form onSubmit={submit} className="grid gap-3">
        {run.error && <ErrorNote error={run.error} />}
        <ActFields act={act} catalogue={catalogue} onChange={setAct} />
        <div className="flex justify-end gap-2 mt-2">
          <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
            Not now
          </button>
          <button type="submit" className="btn btn-sm btn-primary" disabled={run.isPending}>
            {BUTTON[kind] ?? 'Do it'} for {plural(count, 'person', 'people')}
          </button>
        </div>
      </form>
    </Modal>
  )
}
