import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { timeOfDay } from '../../app/format'
import { stale } from '../../app/stale'
import { ErrorNote, Loading } from '../../parts/States'
import { MailboxForm } from './MailboxForm'
import { ProveMailbox } from './ProveMailbox'

type Box = Shape<'Mailbox'>

/** "every 2 to 4 minutes, 8:00 to 18:00" as far as it is narrower than all day and as fast as they go. */
export function paceWords(box: Pick<Box, 'pace_from' | 'pace_to' | 'hours_from' | 'hours_to'>): string {
  const minutes = (seconds: number) => (seconds % 60 === 0 ? String(seconds / 60) : (seconds / 60).toFixed(1))
  const pace =
    box.pace_from && box.pace_to
      ? `every ${minutes(box.pace_from)}${box.pace_from === box.pace_to ? '' : ` to ${minutes(box.pace_to)}`} min`
      : 'as they come'
  const hours =
    box.hours_from === 0 && box.hours_to === 1440 ? '' : `, ${timeOfDay(box.hours_from)} to ${timeOfDay(box.hours_to)}`
  return pace + hours
}

function State({ box }: { box: Box }) {
  if (box.retired) return <span className="muted">retired</span>
  if (!box.proved) return <span className="text-error">not proved, cannot send</span>
  if (box.rests_until) return <span className="text-warning">rests, see Today</span>
  return <span className="text-success">proved</span>
}

/** Addresses the firm writes from: whose, how many a day, at what pace, and whether they are proved. */
export function Mailboxes({ admin, me }: { admin: boolean; me: number }) {
  const client = useQueryClient()
  const { data, error } = useQuery({
    queryKey: ['mailboxes'],
    queryFn: async () => (await ask(api.GET('/api/mailboxes'))).mailboxes,
  })
  const [form, setForm] = useState<Box | 'new' | null>(null)
  const [proving, setProving] = useState<Box | null>(null)
  const takeBack = useMutation({
    mutationFn: (id: number) => ask(api.POST('/api/mailboxes/{id}/take-back', { params: { path: { id } } })),
    onSettled: () => stale(client, 'mailboxes'),
  })
  return (
    <section className="mb-8 max-w-3xl">
      <h2 className="border-b border-base-300 pb-1 mb-1 flex justify-between items-baseline">
        Mailboxes
        {admin && (
          <button type="button" className="btn btn-xs btn-plain font-sans" onClick={() => setForm('new')}>
            New mailbox
          </button>
        )}
      </h2>
      {(error ?? takeBack.error) && <ErrorNote error={error ?? takeBack.error} />}
      {!data && !error && <Loading lines={4} />}
      {data && (
        <table className="plain w-full">
          <thead>
            <tr>
              <th>Address</th>
              <th>Of</th>
              <th>State</th>
              <th>Pace</th>
              <th className="!text-right">Today</th>
              <th>
                <span className="sr-only">What can be done</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {data.map((box) => (
              <tr key={box.id} className={box.retired ? 'muted' : ''}>
                <td className="font-semibold">{box.address}</td>
                <td>{box.owner ?? <span className="muted">the firm</span>}</td>
                <td>
                  <State box={box} />
                </td>
                <td>{paceWords(box)}</td>
                <td className="text-right whitespace-nowrap">
                  {box.sent_today} of {box.daily_limit}
                </td>
                <td className="text-right whitespace-nowrap">
                  {!box.retired && !box.proved && (admin || box.account_id === me) && (
                    <button type="button" className="btn btn-xs btn-plain" onClick={() => setProving(box)}>
                      Prove
                    </button>
                  )}{' '}
                  {admin && !box.retired && (
                    <button
                      type="button"
                      className="btn btn-xs btn-plain"
                      aria-label={`Change ${box.address}`}
                      onClick={() => setForm(box)}
                    >
                      Change
                    </button>
                  )}
                  {admin && box.retired && (
                    <button type="button" className="btn btn-xs btn-plain" onClick={() => takeBack.mutate(box.id)}>
                      Take back
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="muted text-xs mt-2">
        The limit leaves room for ordinary mail. What is over it goes on the next working day; who has heard from you already goes
        first.
      </p>
      {form && (
        <MailboxForm key={form === 'new' ? 0 : form.id} box={form === 'new' ? null : form} onClose={() => setForm(null)} />
      )}
      {proving && <ProveMailbox box={proving} onClose={() => setProving(null)} />}
    </section>
  )
}
