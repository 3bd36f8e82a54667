import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { writeDate } from '../../app/dates'
import { moment, plural } from '../../app/format'
import { useSession } from '../../app/session'
import { stale } from '../../app/stale'
import { useCatalogue } from '../../app/useCatalogue'
import { useNow } from '../../app/usePost'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { AddPeople } from './AddPeople'
import { MemberActs } from './MemberActs'

const LEFT: Record<string, string> = {
  replied: 'left after a reply',
  unsubscribed: 'left, wants no letters',
  bounced: 'left, address failed',
  refused: 'left, address refused',
  converted: 'left, converted',
  taken_out: 'taken out by hand',
  stopped: 'stopped',
  in_the_bin: 'left, record in the bin',
  address_blocked: 'left, address on the do-not-mail list',
  no_at_address: 'left, another record with this address said no',
  same_address: 'left, another member has this address',
  do_not_mail: 'left, asked not to be written to',
  address_failed: 'left, address failed before',
  no_consent: 'left, said no to letters',
  merged: 'left, merged with another record',
  condition: 'left, what the sequence leaves on holds',
  end_date: 'left, the sequence was over',
  handed_over: 'handed over to another sequence',
  no_date: 'left, has not the date of a step',
}

const WAITS: Record<string, string> = {
  reaction: ', waits for a reaction',
  nod: ', waits to be looked at',
  outcome: ', waits for a task',
}

/** Who is in it, where, and what the firm says of them. */
export function MembersTab({ sequence }: { sequence: Shape<'Sequence'> }) {
  const { firm } = useSession()
  const now = useNow()
  const client = useQueryClient()
  const { data: catalogue } = useCatalogue()
  const [status, setStatus] = useState('')
  const [adding, setAdding] = useState(false)
  const query = useInfiniteQuery({
    queryKey: ['members', sequence.id, status],
    queryFn: ({ pageParam }) =>
      ask(
        api.GET('/api/sequences/{id}/members', {
          params: { path: { id: sequence.id }, query: { after: pageParam, status: status || undefined } },
        }),
      ),
    initialPageParam: undefined as number | undefined,
    getNextPageParam: (page) => page.next_after ?? undefined,
  })
  const change = useMutation({
    mutationFn: ({ id, status }: { id: number; status: string }) =>
      ask(api.PATCH('/api/members/{id}', { params: { path: { id } }, body: { status } })),
    onSuccess: () => {
      stale(client, 'members')
    },
  })
  if (sequence.state === 'draft')
    return <Empty>Nobody is in it before it starts. {plural(sequence.sieve.would_get_it, 'person', 'people')} would be.</Empty>
  if (!query.data) return query.error ? <ErrorNote error={query.error} /> : <Loading />
  const members = query.data.pages.flatMap((page) => page.members)
  return (
    <>
      <div className="flex items-center gap-3 mb-2">
        <strong className="font-semibold">{plural(query.data.pages[0]?.total ?? 0, 'member')}</strong>
        <select
          className="select select-sm w-48 bg-[var(--sheet)]"
          aria-label="With status"
          value={status}
          onChange={(event) => setStatus(event.target.value)}
        >
          <option value="">with any status</option>
          {catalogue?.statuses.map((one) => (
            <option key={one.key} value={one.key}>
              {one.words}
            </option>
          ))}
        </select>
        {['running', 'paused'].includes(sequence.state) && (
          <button type="button" className="btn btn-sm btn-plain" onClick={() => setAdding(true)}>
            Add people…
          </button>
        )}
      </div>
      {adding && <AddPeople sequence={sequence} onClose={() => setAdding(false)} />}
      {change.error && <ErrorNote error={change.error} />}
      <table className="plain w-full">
        <thead>
          <tr>
            <th>Name</th>
            <th>Company</th>
            <th>Status</th>
            <th>Where</th>
            <th>Next</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {members.map((member) => (
            <tr key={member.id}>
              <td>
                <Link to={`/people/${member.person_id}`} className="font-semibold hover:underline">
                  {member.name}
                </Link>
              </td>
              <td className="muted">{member.company}</td>
              <td>
                <select
                  className="select select-xs w-40 bg-transparent"
                  aria-label={`Status of ${member.name}`}
                  value={member.status}
                  onChange={(event) => change.mutate({ id: member.id, status: event.target.value })}
                >
                  {catalogue?.statuses.map((one) => (
                    <option key={one.key} value={one.key}>
                      {one.words}
                    </option>
                  ))}
                </select>
                {member.status_by_hand && <span className="text-accent text-xs"> by hand</span>}
              </td>
              <td>
                {member.state === 'active'
                  ? `before step ${member.step}${member.paused ? ', paused' : (WAITS[member.waits_for ?? ''] ?? '')}`
                  : member.state === 'finished'
                    ? 'went through'
                    : (LEFT[member.left_reason ?? ''] ?? 'left')}
              </td>
              <td className="muted whitespace-nowrap">
                {member.next_at ? moment(member.next_at, firm.time_zone) : '—'}
                {member.next_at && member.away_until && member.away_until >= now.slice(0, 10) && (
                  <span className="block text-xs text-accent">away until {writeDate(member.away_until, firm.date_order)}</span>
                )}
              </td>
              <td className="text-right">
                <MemberActs sequence={sequence} member={member} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {query.hasNextPage && (
        <button type="button" className="btn btn-sm btn-plain mt-3" onClick={() => query.fetchNextPage()}>
          More
        </button>
      )}
    </>
  )
}
