import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { ApiProblem, api, ask, type Shape } from '../../api/client'
import { useSession } from '../../app/session'
import { Modal } from '../../parts/Modal'
import { ErrorNote } from '../../parts/States'
import { NewField } from '../settings/OwnFields'

type File = Shape<'Import'>
const NEW_FIELD = 'new field'
const DELIMITERS = { ',': 'comma', ';': 'semicolon', '\t': 'tab', '|': 'bar' }
const ENCODINGS = ['UTF-8', 'UTF-16LE', 'UTF-16BE', 'Windows-1252', 'ISO-8859-15', 'MacRoman']
const ORDERS = { dmy: '03/04 is the 3rd of April', mdy: '03/04 is the 4th of March', ymd: 'the year comes first' }
const BY: Record<string, string> = { habit: 'as last time', name: 'by its name', content: 'by what is in it', hand: 'chosen' }

/** What a column can be brought into. */
function targets(catalogue: Shape<'Catalogue'>) {
  const fields = catalogue.fields.filter(
    (field) => field.uses.includes('import') && !field.retired && field.subject !== 'deal' && field.key !== 'company.name',
  )
  const group = (subject: string) =>
    fields.filter((field) => field.subject === subject).map((field) => ({ value: field.key, words: field.label }))
  return [
    { words: 'Person', options: group('person') },
    { words: 'Company', options: [{ value: 'person.company', words: 'Company' }, ...group('company')] },
  ]
}

/** The columns of a file and what each is meant for; how the file is read can be corrected. */
export function FileColumns({ file, catalogue }: { file: File; catalogue: Shape<'Catalogue'> }) {
  const client = useQueryClient()
  const [matching, setMatching] = useState<(string | null)[]>(() => file.columns.map((column) => column.field ?? null))
  const [making, setMaking] = useState<number | null>(null)
  const admin = useSession().account.role === 'admin'
  const [order, setOrder] = useState(file.reading.order ?? '')
  const put = (next: File) => client.setQueryData(['imports', file.id], next)
  const read = useMutation({
    mutationFn: (reading: Record<string, string>) =>
      ask(api.PATCH('/api/imports/{id}', { params: { path: { id: file.id } }, body: { version: file.version, reading } })),
    onSuccess: put,
  })
  const check = useMutation({
    mutationFn: async (again: boolean) => {
      let version = file.version
      if (order && order !== file.reading.order) {
        const saved = await ask(
          api.PATCH('/api/imports/{id}', { params: { path: { id: file.id } }, body: { version, reading: { order } } }),
        )
        version = saved.version
      }
      return ask(
        api.POST('/api/imports/{id}/check', {
          params: { path: { id: file.id } },
          body: { version, matching, options: again ? { again } : {} },
        }),
      )
    },
    onSettled: () => client.invalidateQueries({ queryKey: ['imports', file.id] }),
  })
  const dates = file.columns.flatMap((column, i) => {
    const field = catalogue.fields.find((one) => one.key === matching[i])
    return field?.type === 'date' ? [{ column, orders: column.orders ?? [] }] : []
  })
  const asks = dates.some((one) => one.orders.length > 1)
  const sameFile = check.error instanceof ApiProblem && check.error.code === 'same_file'
  const groups = targets(catalogue)
  return (
    <>
      {(read.error || check.error) && (
        <ErrorNote error={read.error ?? check.error} retry={sameFile ? () => check.mutate(true) : undefined} />
      )}
      <div className="flex gap-5 items-end mb-4">
        {file.format !== 'xlsx' && (
          <Pick
            label="Encoding"
            value={file.reading.encoding ?? ''}
            options={ENCODINGS.map((one) => [one, one])}
            onPick={(encoding) => read.mutate({ encoding })}
          />
        )}
        {file.format === 'csv' && (
          <Pick
            label="Columns are parted by a"
            value={file.reading.delimiter ?? ''}
            options={Object.entries(DELIMITERS)}
            onPick={(delimiter) => read.mutate({ delimiter })}
          />
        )}
        {file.format === 'xlsx' && (
          <Pick
            label="Sheet"
            value={file.reading.sheet ?? ''}
            options={(file.reading.sheets ?? []).map((one) => [one, one])}
            onPick={(sheet) => read.mutate({ sheet })}
          />
        )}
        <Pick
          label="Numbers are written"
          value={file.reading.decimal ?? '.'}
          options={[
            ['.', '1,234.50'],
            [',', '1.234,50'],
          ]}
          onPick={(decimal) => read.mutate({ decimal })}
        />
        {asks && (
          <Pick
            label="How dates are written: say which"
            value={order}
            needed={!order}
            options={[['', 'choose…'], ...Object.entries(ORDERS)]}
            onPick={setOrder}
          />
        )}
      </div>
      <table className="plain w-full">
        <thead>
          <tr>
            <th>Column in the file</th>
            <th>What stands in it</th>
            <th className="w-72">Bring into</th>
            <th className="w-36" />
          </tr>
        </thead>
        <tbody>
          {file.columns.map((column, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: columns are known by their place
            <tr key={i} className={matching[i] ? '' : 'muted'}>
              <td className="font-semibold">{column.header || <span className="muted">without a name</span>}</td>
              <td className="max-w-md truncate">{column.samples.join(' · ') || <span className="muted">nothing</span>}</td>
              <td>
                <select
                  className="select select-sm w-full bg-[var(--sheet)]"
                  aria-label={`Bring ${column.header} into`}
                  value={matching[i] ?? ''}
                  onChange={(event) =>
                    event.target.value === NEW_FIELD
                      ? setMaking(i)
                      : setMatching(matching.map((one, at) => (at === i ? event.target.value || null : one)))
                  }
                >
                  <option value="">leave out</option>
                  {admin && <option value={NEW_FIELD}>a field of our own, made now…</option>}
                  {groups.map((group) => (
                    <optgroup key={group.words} label={group.words}>
                      {group.options.map((one) => (
                        <option key={one.value} value={one.value}>
                          {one.words}
                        </option>
                      ))}
                    </optgroup>
                  ))}
                </select>
              </td>
              <td className="muted text-xs">{matching[i] === (column.field ?? null) ? (BY[column.by ?? ''] ?? '') : 'chosen'}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {making !== null && (
        <NewFieldFor
          header={file.columns[making]?.header ?? ''}
          onClose={() => setMaking(null)}
          onMade={(key) => {
            setMatching(matching.map((one, at) => (at === making ? key : one)))
            setMaking(null)
          }}
        />
      )}
      <div className="flex gap-3 items-center mt-5">
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={check.isPending || (asks && !order)}
          onClick={() => check.mutate(false)}
        >
          Check every row
        </button>
        <span className="muted">Nothing is written yet. New tags, lists and companies are made when the file is taken in.</span>
      </div>
    </>
  )
}

function Pick({
  label,
  value,
  options,
  needed = false,
  onPick,
}: {
  label: string
  value: string
  options: string[][]
  needed?: boolean
  onPick: (value: string) => void
}) {
  return (
    <label>
      <span className={`field-label ${needed ? '!text-error font-semibold' : ''}`}>{label}</span>
      <select className="select select-sm bg-[var(--sheet)]" value={value} onChange={(event) => onPick(event.target.value)}>
        {options.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </select>
    </label>
  )
}

/** A column that no field is there for: the field is made, and the column brought into it. */
function NewFieldFor({ header, onClose, onMade }: { header: string; onClose: () => void; onMade: (key: string) => void }) {
  const client = useQueryClient()
  return (
    <Modal title={`A field for “${header}”`} onClose={onClose}>
      <NewField
        label={header}
        onMade={async (made) => {
          await client.invalidateQueries({ queryKey: ['catalogue'] })
          onMade(made.key)
        }}
      />
      <div className="text-right mt-4">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Not now
        </button>
      </div>
    </Modal>
  )
}
