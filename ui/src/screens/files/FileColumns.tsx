import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { ApiProblem, api, ask, type Shape } from '../../api/client'
import { useSession } from '../../app/session'
import { useInTurn } from '../../app/useInTurn'
import { Modal } from '../../parts/Modal'
import { ErrorNote } from '../../parts/States'
import { NewField } from '../settings/OwnFields'

type File = Shape<'Import'>
type Reading = { encoding?: string; delimiter?: string; sheet?: string; header?: number } & Partial<Record<Question, string>>
type Question = 'order' | 'decimal' | 'name_order'
/** What fits beside the arrow of a choice. */
const SHOWN = 42
const NEW_FIELD = 'new field'
const DELIMITERS = { ',': 'comma', ';': 'semicolon', '\t': 'tab', '|': 'bar' }
const ORDERS = { dmy: '03/04 is the 3rd of April', mdy: '03/04 is the 4th of March', ymd: 'the year comes first' }
const BY: Record<string, string> = { habit: 'as last time', name: 'by its name', content: 'by what is in it', hand: 'chosen' }

const NAME_ORDERS = { given_first: 'Ana Lark: the given name first', family_first: 'Lark Ana: the family name first' }
const NUMBERS = { '.': '1,234.50', ',': '1.234,50' }
const NAMING = ['person.first_name', 'person.last_name', 'person.known_as', 'person.name', 'person.company']

/** What a column can be brought into. */
function targets(file: File) {
  const group = (subject: string) => file.targets?.filter((one) => one.subject === subject) ?? []
  return [
    { words: 'Person', options: group('person') },
    { words: 'Company', options: group('company') },
  ]
}

/** The columns of a file and what each is meant for; how the file is read can be corrected. */
export function FileColumns({ file }: { file: File }) {
  const client = useQueryClient()
  const [matching, setMatching] = useState<(string | null)[]>(() => file.columns.map((column) => column.field ?? null))
  const [making, setMaking] = useState<number | null>(null)
  const admin = useSession().account.role === 'admin'
  const put = (next: File) => client.setQueryData(['imports', file.id], next)
  const key = ['imports', file.id] as const
  const read = useInTurn(
    key,
    file,
    (reading: Reading, version) =>
      ask(api.PATCH('/api/imports/{id}', { params: { path: { id: file.id } }, body: { version, reading } })),
    { onSuccess: put },
  )
  const match = useInTurn(
    key,
    file,
    (matching: (string | null)[], version) =>
      ask(api.PATCH('/api/imports/{id}', { params: { path: { id: file.id } }, body: { version, matching } })),
    { onSuccess: put },
  )
  const bringInto = (i: number, field: string | null) => {
    const next = matching.map((one, at) => (at === i ? field : one))
    setMatching(next)
    match.mutate(next)
  }
  const anew = () => client.invalidateQueries({ queryKey: key })
  const check = useInTurn(
    key,
    file,
    (again: boolean, version) =>
      ask(
        api.POST('/api/imports/{id}/check', {
          params: { path: { id: file.id } },
          body: { version, matching, options: again ? { again } : {} },
        }),
      ),
    { onSuccess: anew, onError: anew },
  )
  const unsaid = Object.keys(file.asks).some((key) => !file.reading[key as Question])
  const sameFile = check.error instanceof ApiProblem && check.error.code === 'same_file'
  const groups = targets(file)
  return (
    <>
      {(read.error || match.error || check.error) && (
        <ErrorNote error={read.error ?? match.error ?? check.error} retry={sameFile ? () => check.mutate(true) : undefined} />
      )}
      <div className="flex flex-wrap gap-x-5 gap-y-3 items-end mb-4">
        {file.format !== 'xlsx' && (
          <Pick
            label="Encoding"
            value={file.reading.encoding ?? ''}
            options={(file.encodings ?? []).map((one) => [one.name, `${one.name}: ${one.sample}`])}
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
        {file.first_rows && file.first_rows.length > 0 && (
          <Pick
            label="The columns are named"
            value={String(file.reading.header ?? 0)}
            options={[
              ...file.first_rows.map((row) => [
                String(row.number),
                `in line ${row.number}: ${row.cells.filter(Boolean).join(', ')}`,
              ]),
              ['0', 'nowhere; the first line is somebody already'],
            ]}
            onPick={(header) => read.mutate({ header: Number(header) })}
          />
        )}
        <Ask name="decimal" label="Numbers are written" file={file} options={NUMBERS} onPick={read.mutate} />
        <Ask name="order" label="Dates are written" file={file} options={ORDERS} onPick={read.mutate} />
        <Ask name="name_order" label="Names are written" file={file} options={NAME_ORDERS} onPick={read.mutate} />
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
                    event.target.value === NEW_FIELD ? setMaking(i) : bringInto(i, event.target.value || null)
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
            bringInto(making, key)
            setMaking(null)
          }}
        />
      )}
      {!matching.includes('person.email') && NAMING.some((key) => matching.includes(key)) && (
        <p className="text-error mt-4" role="status">
          No column goes into Address: nobody in this file would have one, and no letter could go to them.
        </p>
      )}
      <div className="flex gap-3 items-center mt-5">
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={check.isPending || match.isPending || unsaid}
          onClick={() => check.mutate(false)}
        >
          Check every row
        </button>
        <span className="muted">Nothing is written yet. New tags, lists and companies are made when the file is taken in.</span>
      </div>
    </>
  )
}

/** How a file is read, where that is not the same for all: a question where the file does not answer it. Nothing is guessed. */
function Ask({
  name,
  label,
  file,
  options,
  onPick,
}: {
  name: Question
  label: string
  file: File
  options: Record<string, string>
  onPick: (reading: Reading) => void
}) {
  const said = file.reading[name] ?? ''
  if (!said && !file.asks[name]) return null
  return (
    <Pick
      label={said ? label : `${label}: say which`}
      value={said}
      needed={!said}
      options={[...(said ? [] : [['', 'choose…']]), ...Object.entries(options)]}
      onPick={(picked) => picked && onPick({ [name]: picked })}
    />
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
      <select
        className="select select-sm bg-[var(--sheet)] max-w-80 pr-8 truncate"
        value={value}
        onChange={(event) => onPick(event.target.value)}
      >
        {options.map(([key, words]) => (
          <option key={key} value={key}>
            {words && words.length > SHOWN ? `${words.slice(0, SHOWN)}…` : words}
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
          await client.invalidateQueries({ queryKey: ['imports'] })
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
