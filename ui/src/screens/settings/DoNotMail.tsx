import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, ask } from '../../api/client'
import { day, plural } from '../../app/format'
import { useSession } from '../../app/session'
import { ErrorNote, Loading } from '../../parts/States'

/** Addresses and domains that nothing is ever sent to, whoever is chosen. */
export function DoNotMail() {
  const { firm } = useSession()
  const client = useQueryClient()
  const [value, setValue] = useState('')
  const [reason, setReason] = useState('')
  const { data, error } = useQuery({ queryKey: ['blocked'], queryFn: async () => (await ask(api.GET('/api/blocked'))).blocked })
  const refresh = () => {
    for (const key of ['blocked', 'people', 'person', 'sieve', 'history']) client.invalidateQueries({ queryKey: [key] })
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
  const submit = (event: FormEvent) => {
    event.preventDefault()
    put.mutate()
  }
  return (
    <section className="mb-8 max-w-4xl">
      <h2 className="border-b border-base-300 pb-1 mb-1">Do-not-mail list</h2>
      {(error || off.error) && <ErrorNote error={error ?? off.error} />}
      {!data && !error && <Loading lines={3} />}
      {data && data.length > 0 && (
        <table className="plain w-full">
          <tbody>
            {data.map((block) => (
              <tr key={block.id}>
                <td className="font-semibold">{block.value}</td>
                <td className="muted">{block.kind === 'domain' ? 'the whole domain' : 'one address'}</td>
                <td>{block.reason}</td>
                <td className="muted">{plural(block.people, 'record')}</td>
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
    </section>
  )
}
