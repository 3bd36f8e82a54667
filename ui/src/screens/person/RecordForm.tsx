import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { ApiProblem, api, ask, type Shape } from '../../api/client'
import { ErrorNote } from '../../parts/States'

type Person = Shape<'Person'>
type Input = Shape<'PersonInput'>
type TextField =
  | 'title'
  | 'first_name'
  | 'last_name'
  | 'job_title'
  | 'company'
  | 'email'
  | 'phone'
  | 'city'
  | 'country'
  | 'time_zone'

const FIELDS: { name: TextField; words: string }[] = [
  { name: 'title', words: 'Title' },
  { name: 'first_name', words: 'First name' },
  { name: 'last_name', words: 'Last name' },
  { name: 'company', words: 'Company' },
  { name: 'job_title', words: 'Job' },
  { name: 'email', words: 'Address' },
  { name: 'phone', words: 'Phone' },
  { name: 'city', words: 'City' },
  { name: 'country', words: 'Country' },
  { name: 'time_zone', words: 'Time zone' },
]

/** The record; each field is saved as one leaves it. */
export function RecordForm({ person, catalogue }: { person: Person; catalogue: Shape<'Catalogue'> }) {
  const client = useQueryClient()
  const [values, setValues] = useState<Record<string, string>>(() =>
    Object.fromEntries(FIELDS.map((field) => [field.name, String(person[field.name] ?? '')])),
  )
  const [tags, setTags] = useState(person.tags.join(', '))
  const save = useMutation({
    mutationFn: (change: Input) =>
      ask(api.PATCH('/api/people/{id}', { params: { path: { id: person.id } }, body: { ...change, version: person.version } })),
    onSuccess: (saved) => {
      client.setQueryData(['person', person.id], saved)
      for (const key of ['people', 'history', 'sieve', 'stack', 'letter', 'catalogue', 'sequence', 'ready'])
        client.invalidateQueries({ queryKey: [key] })
    },
  })
  const changed = save.error instanceof ApiProblem && save.error.code === 'changed_meanwhile'
  const keep = (name: TextField) => {
    const value = (values[name] ?? '').trim()
    if (value !== String(person[name] ?? '')) save.mutate({ [name]: value || null })
  }
  const choice = (key: string) => catalogue.fields.find((field) => field.key === key)?.choices ?? []
  return (
    <div>
      {save.error && (
        <ErrorNote
          error={save.error}
          retry={changed ? () => client.invalidateQueries({ queryKey: ['person', person.id] }) : undefined}
        />
      )}
      <div className="grid grid-cols-[92px_minmax(0,1fr)] items-center gap-y-1">
        {FIELDS.map((field) => (
          <label key={field.name} className="contents">
            <span className="muted text-xs">{field.words}</span>
            <input
              className="h-7 px-1.5 rounded-sm bg-transparent border border-transparent hover:border-base-300 focus:border-primary focus:bg-[var(--sheet)]"
              placeholder="nothing yet"
              value={values[field.name]}
              onChange={(event) => setValues({ ...values, [field.name]: event.target.value })}
              onBlur={() => keep(field.name)}
              onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
            />
          </label>
        ))}
        <label className="contents">
          <span className="muted text-xs">Standing</span>
          <select
            className="select select-xs bg-transparent w-full"
            value={person.standing}
            onChange={(event) => save.mutate({ standing: event.target.value as Input['standing'] })}
          >
            {choice('person.standing').map((one) => (
              <option key={one.value} value={one.value}>
                {one.words}
              </option>
            ))}
          </select>
        </label>
        <label className="contents">
          <span className="muted text-xs">Owner</span>
          <select
            className="select select-xs bg-transparent w-full"
            value={person.owner_id ?? ''}
            onChange={(event) => save.mutate({ owner_id: event.target.value ? Number(event.target.value) : null })}
          >
            <option value="">nobody</option>
            {catalogue.colleagues.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
        <label className="contents">
          <span className="muted text-xs">Consent</span>
          <select
            className="select select-xs bg-transparent w-full"
            value={person.consent}
            onChange={(event) => save.mutate({ consent: event.target.value as Input['consent'] })}
          >
            {choice('person.consent').map((one) => (
              <option key={one.value} value={one.value}>
                {one.words}
              </option>
            ))}
          </select>
        </label>
        <label className="contents">
          <span className="muted text-xs">Tags</span>
          <input
            className="h-7 px-1.5 rounded-sm bg-transparent border border-transparent hover:border-base-300 focus:border-primary focus:bg-[var(--sheet)]"
            placeholder="words, with commas between"
            value={tags}
            onChange={(event) => setTags(event.target.value)}
            onBlur={() => {
              const wanted = tags
                .split(',')
                .map((tag) => tag.trim())
                .filter(Boolean)
              if (wanted.join() !== person.tags.join()) save.mutate({ tags: wanted })
            }}
          />
        </label>
        <label className="contents">
          <span className="muted text-xs">Do-not-mail</span>
          <span className="px-1.5">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={person.do_not_mail}
              onChange={(event) => save.mutate({ do_not_mail: event.target.checked })}
            />
          </span>
        </label>
      </div>
    </div>
  )
}
