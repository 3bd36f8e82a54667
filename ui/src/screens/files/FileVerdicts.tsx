import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { number, plural } from '../../app/format'
import { useSession } from '../../app/session'
import { ErrorNote } from '../../parts/States'
import { FileRows } from './FileRows'

const NEW_COLLEAGUE = 'new'
const VERDICTS = [
  { key: 'new', words: 'new', tone: 'text-success' },
  { key: 'update', words: 'would change a record', tone: 'text-primary' },
  { key: 'same', words: 'the same already', tone: 'muted' },
  { key: 'doubtful', words: 'doubtful', tone: 'text-accent' },
  { key: 'refused', words: 'refused', tone: 'text-error' },
] as const
const CHOICES: Record<string, [string, string][]> = {
  new: [
    ['take', 'make records'],
    ['leave', 'leave them out'],
  ],
  update: [
    ['replace', 'write over what is there'],
    ['fill', 'only fill what is empty'],
    ['leave', 'leave them as they are'],
  ],
  doubtful: [
    ['leave', 'leave them out; they come back in a file'],
    ['new', 'make new records'],
    ['update', 'take them for the records found'],
  ],
}

/** What taking the file in would do, and the word to do it. */
export function FileVerdicts({ file, catalogue }: { file: Shape<'Import'>; catalogue: Shape<'Catalogue'> }) {
  const client = useQueryClient()
  const first = VERDICTS.find((one) => (file.counts[one.key] ?? 0) > 0)?.key ?? 'new'
  const [shown, setShown] = useState<(typeof VERDICTS)[number]['key']>(first)
  const [choices, setChoices] = useState<Record<string, string>>({ new: 'take', update: 'replace', doubtful: 'leave' })
  const [tags, setTags] = useState('')
  const [list, setList] = useState('')
  const words = (text: string) =>
    text
      .split(',')
      .map((one) => one.trim())
      .filter(Boolean)
  const take = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/imports/{id}/take', {
          params: { path: { id: file.id } },
          body: { version: file.version, choices: { ...choices, tags: words(tags), lists: words(list) } },
        }),
      ),
    onSettled: () => client.invalidateQueries({ queryKey: ['imports', file.id] }),
  })
  const count = (key: string) => file.counts[key] ?? 0
  const taken = (['new', 'update', 'doubtful'] as const).reduce(
    (sum, key) => sum + (choices[key] === 'leave' ? 0 : count(key)),
    0,
  )
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_300px] gap-6">
      <div className="min-w-0">
        <div className="flex gap-1 border-b border-base-300 mb-2" role="tablist">
          {VERDICTS.map((one) => (
            <button
              key={one.key}
              type="button"
              role="tab"
              aria-selected={shown === one.key}
              className={`px-3 py-1.5 -mb-px border-b-2 ${shown === one.key ? 'border-primary' : 'border-transparent'}`}
              onClick={() => setShown(one.key)}
            >
              <strong className={`font-semibold ${count(one.key) > 0 ? one.tone : 'muted'}`}>{number(count(one.key))}</strong>{' '}
              <span className="muted">{one.words}</span>
            </button>
          ))}
        </div>
        <FileRows id={file.id} verdict={shown} />
      </div>
      <aside className="border-l border-base-300 pl-5 grid gap-4 content-start">
        <h2>{plural(file.rows, 'row')} in all</h2>
        {take.error && <ErrorNote error={take.error} />}
        <UnknownOwners file={file} catalogue={catalogue} />
        {(['new', 'update', 'doubtful'] as const)
          .filter((key) => count(key) > 0)
          .map((key) => (
            <fieldset key={key}>
              <legend className="font-semibold">
                {number(count(key))} {VERDICTS.find((one) => one.key === key)?.words}
              </legend>
              {CHOICES[key]?.map(([value, label]) => (
                <label key={value} className="flex gap-2 items-center py-0.5">
                  <input
                    type="radio"
                    name={key}
                    className="radio radio-xs"
                    checked={choices[key] === value}
                    onChange={() => setChoices({ ...choices, [key]: value })}
                  />
                  {label}
                </label>
              ))}
            </fieldset>
          ))}
        <label>
          <span className="field-label">Tag everybody in the file</span>
          <input
            className="text-field"
            list="file-tags"
            placeholder="none"
            value={tags}
            onChange={(event) => setTags(event.target.value)}
          />
          <datalist id="file-tags">
            {catalogue.tags.map((tag) => (
              <option key={tag} value={tag} />
            ))}
          </datalist>
        </label>
        <label>
          <span className="field-label">Put everybody on the list</span>
          <input
            className="text-field"
            list="file-lists"
            placeholder="none"
            value={list}
            onChange={(event) => setList(event.target.value)}
          />
          <datalist id="file-lists">
            {catalogue.lists.map((one) => (
              <option key={one.id} value={one.name} />
            ))}
          </datalist>
        </label>
        <button
          type="button"
          className="btn btn-primary"
          disabled={take.isPending || (taken === 0 && !tags && !list)}
          onClick={() => take.mutate()}
        >
          Take {plural(taken, 'row')} in
        </button>
        {count('partly') > 0 && (
          <p>
            Of {plural(count('partly'), 'row')} a value is left out; why stands beside them, and they come back with the refused
            ones.
          </p>
        )}
        {count('refused') + count('partly') > 0 && (
          <a className="word justify-self-start" href={`/api/imports/${file.id}/refused`} download>
            Refused rows as CSV, with reasons
          </a>
        )}
        <p className="muted text-xs">One move takes all of it back afterwards, but for what somebody has changed by then.</p>
      </aside>
    </div>
  )
}

/** Names in a column of owners that no colleague has: who is meant, and the rows are checked anew. */
function UnknownOwners({ file, catalogue }: { file: Shape<'Import'>; catalogue: Shape<'Catalogue'> }) {
  const client = useQueryClient()
  const unknown = ((file.choices as { unknown_owners?: string[] }).unknown_owners ?? []).slice(0, 20)
  const [owners, setOwners] = useState<Record<string, number | null>>({})
  const admin = useSession().account.role === 'admin'
  const make = useMutation({
    mutationFn: (name: string) => ask(api.POST('/api/colleagues', { body: { name } })),
    onSuccess: (made, name) => {
      client.invalidateQueries({ queryKey: ['catalogue'] })
      setOwners({ ...owners, [name]: made.id })
    },
  })
  const again = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/imports/{id}/check', {
          params: { path: { id: file.id } },
          body: {
            version: file.version,
            matching: file.matching,
            options: { owners: { ...Object.fromEntries(unknown.map((name) => [name, null])), ...owners } },
          },
        }),
      ),
    onSettled: () => client.invalidateQueries({ queryKey: ['imports', file.id] }),
  })
  if (unknown.length === 0) return null
  return (
    <fieldset className="border-l-2 border-accent bg-[var(--personal)] px-3 py-2 grid gap-2">
      <legend className="sr-only">Owners nobody knows</legend>
      <p className="font-semibold">Who is meant? No colleague is called</p>
      {(again.error || make.error) && <ErrorNote error={again.error ?? make.error} />}
      {unknown.map((name) => (
        <label key={name} className="flex gap-2 items-center">
          <span className="grow truncate">{name}</span>
          <select
            className="select select-xs w-32 bg-[var(--sheet)]"
            value={owners[name] ?? ''}
            onChange={(event) =>
              event.target.value === NEW_COLLEAGUE
                ? make.mutate(name)
                : setOwners({ ...owners, [name]: Number(event.target.value) || null })
            }
          >
            <option value="">nobody</option>
            {admin && <option value={NEW_COLLEAGUE}>a new colleague</option>}
            {catalogue.colleagues.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
      ))}
      <button
        type="button"
        className="btn btn-xs btn-plain justify-self-start"
        disabled={again.isPending}
        onClick={() => again.mutate()}
      >
        Check again with these
      </button>
    </fieldset>
  )
}
