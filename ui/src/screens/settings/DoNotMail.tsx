import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { day, plural } from '../../app/format'
import { useSession } from '../../app/session'
import { stale } from '../../app/stale'
import { ErrorNote, Loading } from '../../parts/States'
import { OpensPeople } from '../people/behind/OpensPeople'

/** Addresses and domains that nothing is ever sent to, whoever is chosen, and which addresses are one. */
export function DoNotMail({ admin }: { admin: boolean }) {
  const { firm } = useSession()
  const client = useQueryClient()
  const [value, setValue] = useState('')
  const [reason, setReason] = useState('')
  const { data, error } = useQuery({ queryKey: ['blocked'], queryFn: () => ask(api.GET('/api/blocked')) })
  const refresh = () => {
    stale(client, 'no')
  }
  const kind = value.trim().replace(/^@/, '').includes('@') ? 'address' : 'domain'
  const put = useMutation({
    mutationFn: () => ask(api.POST('/api/blocked', { body: { kind, value: value.trim(), reason: reason.trim() } })),
    onSuccess: () => {
      setValue('')
      setReason('')
      refresh()
    },
  })
  const off = useMutation({
    mutationFn: (id: number) => ask(api.DELETE('/api/blocked/{id}', { params: { path: { id } } })),
    onSuccess: refresh,
  })
  const tags = useMutation({
    mutationFn: (plus_tags: Shape<'PlusTags'>) => ask(api.PUT('/api/plus-tags', { body: { plus_tags } })),
    onSuccess: refresh,
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    put.mutate()
  }
  return (
    <section className="mb-8 max-w-4xl">
      <h2 className="border-b border-base-300 pb-1 mb-1">Do-not-mail list</h2>
      {(error || off.error || tags.error) && <ErrorNote error={error ?? off.error ?? tags.error} />}
      {!data && !error && <Loading lines={3} />}
      {data && data.blocked.length > 0 && (
        <table className="plain w-full">
          <tbody>
            {data.blocked.map((block) => (
              <tr key={block.id}>
                <td className="font-semibold">{block.value}</td>
                <td className="muted">{block.kind === 'domain' ? 'the whole domain' : 'one address'}</td>
                <td>{block.reason}</td>
                <td>
                  <OpensPeople
                    title={`Not written to: ${block.value}`}
                    count={block.people}
                    queryKey={['blocked', block.id]}
                    load={(cursor) =>
                      ask(api.GET('/api/blocked/{id}/people', { params: { path: { id: block.id }, query: { cursor } } }))
                    }
                  >
                    {plural(block.people, 'record')}
                  </OpensPeople>
                </td>
                <td className="muted">
                  {day(block.at, firm.time_zone)}, {block.by}
                </td>
                <td className="text-right">
                  <button
                    type="button"
                    className="btn btn-xs btn-plain"
                    disabled={off.isPending}
                    onClick={() => off.mutate(block.id)}
                  >
                    Take off
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <form onSubmit={submit} className="flex gap-2 items-end mt-2">
        <label className="w-64">
          <span className="field-label">Address, or a whole domain</span>
          <input
            className="text-field"
            placeholder="house.example"
            value={value}
            onChange={(event) => setValue(event.target.value)}
          />
        </label>
        <label className="grow">
          <span className="field-label">Why</span>
          <input className="text-field" value={reason} onChange={(event) => setReason(event.target.value)} />
        </label>
        <button type="submit" className="btn btn-sm btn-plain" disabled={!value.trim() || !reason.trim() || put.isPending}>
          Block the {kind}
        </button>
      </form>
      {put.error && <ErrorNote error={put.error} />}
      <p className="muted text-xs mt-2">Stronger than any audience: whoever is on it leaves the sequences they are in at once.</p>
      {data && (
        <label className="flex gap-3 items-center mt-4">
          <span>
            To us, <em>ann+news@house.example</em> and <em>ann@house.example</em> are
          </span>
          <select
            className="select select-sm w-56 bg-[var(--sheet)]"
            disabled={!admin || tags.isPending}
            value={data.plus_tags}
            onChange={(event) => tags.mutate(event.target.value as Shape<'PlusTags'>)}
          >
            <option value="different">two addresses</option>
            <option value="same">one address</option>
          </select>
        </label>
      )}
      {data && (
        <p className="muted text-xs mt-1">
          Where they are one, a “no” at either holds for both, and a letter goes to one of them. It takes effect at once.
        </p>
      )}
    </section>
  )
}
