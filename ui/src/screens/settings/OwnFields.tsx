import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { number } from '../../app/format'
import { stale } from '../../app/stale'
import { inTurn } from '../../app/useInTurn'
import { NameInPlace } from '../../parts/NameInPlace'
import { ErrorNote, Loading } from '../../parts/States'
import { UsedIn } from '../../parts/UsedIn'
import { CompaniesBehind } from '../companies/CompaniesBehind'
import { PeopleCount } from '../people/behind/PeopleCount'

const ASKED_EVERY_MS = 400

const TYPES: [NonNullable<Shape<'OwnFieldInput'>['type']>, string][] = [
  ['text', 'text'],
  ['long_text', 'long text'],
  ['number', 'number'],
  ['money', 'money'],
  ['date', 'date'],
  ['flag', 'yes or no'],
  ['choice', 'one of several'],
  ['choices', 'several of several'],
  ['link', 'link'],
]

/** Fields the firm made: each is at once a column, a condition, a merge field and a place to bring a file's column into. */
export function OwnFields({ admin }: { admin: boolean }) {
  const client = useQueryClient()
  const { data, error } = useQuery({ queryKey: ['fields'], queryFn: async () => (await ask(api.GET('/api/fields'))).fields })
  const refresh = () => {
    stale(client, 'fields')
  }
  const change = useMutation({
    mutationFn: ({ field, body }: { field: Shape<'OwnField'>; body: Shape<'OwnFieldInput'> }) =>
      inTurn(client, ['fields', field.id], field.version, (version) =>
        ask(api.PATCH('/api/fields/{id}', { params: { path: { id: field.id } }, body: { ...body, version } })),
      ),
    scope: { id: 'fields' },
    onSettled: refresh,
  })
  return (
    <section className="mb-8 max-w-4xl">
      <h2 className="border-b border-base-300 pb-1 mb-1">Our own fields</h2>
      {(error || change.error) && <ErrorNote error={error ?? change.error} />}
      {!data && !error && <Loading lines={3} />}
      {data && data.length > 0 && (
        <table className="plain w-full">
          <thead>
            <tr>
              <th className="w-48">Name</th>
              <th>Of a</th>
              <th>Holds</th>
              <th className="!text-right">Filled on</th>
              <th>Used in</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {data.map((field) => (
              <tr key={field.id} className={field.retired ? 'muted' : ''}>
                <td>
                  {admin ? (
                    <NameInPlace
                      name={field.label}
                      label={`Name of the field ${field.label}`}
                      onSave={(label) => change.mutate({ field, body: { label } })}
                    />
                  ) : (
                    field.label
                  )}
                </td>
                <td>{field.subject}</td>
                <td>
                  {TYPES.find(([type]) => type === field.type)?.[1]}
                  {field.choices.length > 0 && <span className="muted">: {field.choices.join(', ')}</span>}
                </td>
                <td className="text-right">
                  {!field.made ? (
                    <span className="muted">being made</span>
                  ) : field.subject === 'person' ? (
                    <PeopleCount
                      bare
                      title={`${field.label} is filled`}
                      count={field.filled}
                      condition={{ not: { field: field.key, is: 'empty' } }}
                    />
                  ) : (
                    <CompaniesBehind title={`${field.label} is filled`} count={field.filled} filled={field.key}>
                      {number(field.filled)}
                    </CompaniesBehind>
                  )}
                </td>
                <td>
                  <UsedIn uses={field.used_in} />
                </td>
                <td className="text-right">
                  {admin && (
                    <button
                      type="button"
                      className="btn btn-xs btn-plain"
                      onClick={() => change.mutate({ field, body: { retired: !field.retired } })}
                    >
                      {field.retired ? 'Use again' : 'Retire'}
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="muted text-xs my-2">
        A retired field is offered nowhere any more; filters, letters and sequences that speak of it go on as they are.
      </p>
      {admin && <NewField onMade={refresh} />}
    </section>
  )
}

/** A new field can be used once its place in the records is made, which takes longer the more people there are. */
async function untilMade(id: number): Promise<Shape<'OwnField'>> {
  for (;;) {
    const field = (await ask(api.GET('/api/fields'))).fields.find((one) => one.id === id)
    if (!field) throw new Error('This field is gone.')
    if (field.made) return field
    await new Promise((resolve) => setTimeout(resolve, ASKED_EVERY_MS))
  }
}

/** Makes a field: its name, whose it is, what it holds. */
export function NewField({ label: named = '', onMade }: { label?: string; onMade: (field: Shape<'OwnField'>) => void }) {
  const [label, setLabel] = useState(named)
  const [type, setType] = useState<(typeof TYPES)[number][0]>('text')
  const [subject, setSubject] = useState<'person' | 'company'>('person')
  const [choices, setChoices] = useState('')
  const needsChoices = type === 'choice' || type === 'choices'
  const make = useMutation({
    mutationFn: async () => {
      const field = await ask(
        api.POST('/api/fields', {
          body: {
            label: label.trim(),
            type,
            subject,
            ...(needsChoices ? { choices: choices.split(',').map((one) => one.trim()) } : {}),
          },
        }),
      )
      return untilMade(field.id)
    },
    onSuccess: (field) => {
      setLabel('')
      setChoices('')
      onMade(field)
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    make.mutate()
  }
  return (
    <form onSubmit={submit} className="flex flex-wrap gap-2 items-end">
      <label className="w-48">
        <span className="field-label">A new field</span>
        <input className="text-field" placeholder="Its name" value={label} onChange={(event) => setLabel(event.target.value)} />
      </label>
      <label>
        <span className="field-label">Of a</span>
        <select
          className="select select-sm bg-[var(--sheet)]"
          value={subject}
          onChange={(event) => setSubject(event.target.value as 'person' | 'company')}
        >
          <option value="person">person</option>
          <option value="company">company</option>
        </select>
      </label>
      <label>
        <span className="field-label">Holds</span>
        <select
          className="select select-sm bg-[var(--sheet)]"
          value={type}
          onChange={(event) => setType(event.target.value as typeof type)}
        >
          {TYPES.map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
      </label>
      {needsChoices && (
        <label className="grow">
          <span className="field-label">Choices, with commas between</span>
          <input className="text-field" value={choices} onChange={(event) => setChoices(event.target.value)} />
        </label>
      )}
      <button type="submit" className="btn btn-sm btn-plain" disabled={!label.trim() || make.isPending}>
        {make.isPending ? 'Making it…' : 'Make the field'}
      </button>
      {make.error && (
        <div className="w-full">
          <ErrorNote error={make.error} />
        </div>
      )}
    </form>
  )
}
