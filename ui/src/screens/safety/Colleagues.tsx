import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../api/client'
import { plural } from '../../app/format'
import { useSession } from '../../app/session'
import { stale } from '../../app/stale'
import { ErrorNote, Loading } from '../../parts/States'
import { PeopleCount } from '../people/behind/PeopleCount'

type Colleague = Shape<'Colleague'>

/** Who works here and what they may do. */
export function Colleagues() {
  const client = useQueryClient()
  const { account } = useSession()
  const { data, error } = useQuery({
    queryKey: ['colleagues'],
    queryFn: async () => (await ask(api.GET('/api/colleagues'))).colleagues,
  })
  const change = useMutation({
    mutationFn: ({ id, body }: { id: number; body: { role?: Colleague['role']; closed?: boolean } }) =>
      ask(api.PATCH('/api/colleagues/{id}', { params: { path: { id } }, body })),
    onSettled: () => {
      stale(client, 'colleagues')
    },
  })
  const problem = error ?? change.error
  return (
    <section className="mb-8 max-w-3xl">
      <h2 className="border-b border-base-300 pb-1 mb-1">Colleagues</h2>
      {problem && <ErrorNote error={problem} />}
      {!data && !error && <Loading lines={4} />}
      <table className="plain w-full">
        <tbody>
          {data?.map((one) => (
            <tr key={one.id} className={one.closed ? 'muted' : ''}>
              <td className="w-56">
                <span className="font-semibold">{one.name}</span>
                <span className="muted text-xs block">{one.email ?? 'no address'}</span>
              </td>
              <td>
                {one.id === account.id ? (
                  <span>{one.role}, you</span>
                ) : (
                  <select
                    className="select select-sm bg-[var(--sheet)] w-36"
                    aria-label={`What ${one.name} may do`}
                    value={one.role}
                    onChange={(event) => change.mutate({ id: one.id, body: { role: event.target.value as Colleague['role'] } })}
                  >
                    <option value="colleague">colleague</option>
                    <option value="admin">admin</option>
                  </select>
                )}
              </td>
              <td>
                {one.closed ? 'sign-in closed' : one.signs_in ? 'can sign in' : 'does not sign in'}
                <Theirs of={one} />
              </td>
              <td className="text-right">
                {one.id !== account.id && one.signs_in && (
                  <button
                    type="button"
                    className="btn btn-xs btn-plain"
                    aria-label={`${one.closed ? 'Open' : 'Close'} the sign-in of ${one.name}`}
                    onClick={() => change.mutate({ id: one.id, body: { closed: !one.closed } })}
                  >
                    {one.closed ? 'Open' : 'Close'}
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="muted text-xs mt-2">
        Admins change what the firm sets and who works here. Closing a sign-in ends it at once, wherever it is in use. What goes
        by a colleague’s name stays so: letters from their mailbox go on, their people have to be given to somebody else, and
        their tasks are seen by everybody.
      </p>
    </section>
  )
}

/** What goes by a colleague's name. */
function Theirs({ of }: { of: Colleague }) {
  // No numbers of what cannot be opened from here.
  const more = [
    of.tasks > 0 && (of.tasks > 1 ? 'tasks to do' : 'a task to do'),
    of.mailboxes > 0 && (of.mailboxes > 1 ? 'mailboxes' : 'a mailbox'),
  ].filter(Boolean)
  if (of.people === 0 && more.length === 0) return null
  return (
    <span className="muted text-xs block">
      {of.people > 0 && (
        <PeopleCount
          title={`The people of ${of.name}`}
          count={of.people}
          condition={{ field: 'person.owner', is: 'one_of', value: [of.id] }}
        >
          {plural(of.people, 'person', 'people')}
        </PeopleCount>
      )}
      {of.people > 0 && more.length > 0 && ', '}
      {more.join(', ')}
    </span>
  )
}
