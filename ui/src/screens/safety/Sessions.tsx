import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, ask } from '../../api/client'
import { moment } from '../../app/format'
import { stale } from '../../app/stale'
import { ErrorNote, Loading } from '../../parts/States'

/** Where one is signed in, and the end of it. */
export function Sessions({ timeZone }: { timeZone: string }) {
  const client = useQueryClient()
  const { data, error } = useQuery({
    queryKey: ['sessions'],
    queryFn: async () => (await ask(api.GET('/api/sessions'))).sessions,
  })
  const refresh = () => {
    stale(client, 'safety')
  }
  const end = useMutation({
    mutationFn: (id: number) => ask(api.DELETE('/api/sessions/{id}', { params: { path: { id } } })),
    onSettled: refresh,
  })
  const endOthers = useMutation({ mutationFn: () => ask(api.POST('/api/sessions/end-others')), onSettled: refresh })
  const problem = error ?? end.error ?? endOthers.error
  return (
    <section className="mb-8 max-w-3xl">
      <h2 className="border-b border-base-300 pb-1 mb-1">Where you are signed in</h2>
      {problem && <ErrorNote error={problem} />}
      {!data && !error && <Loading lines={2} />}
      {data && (
        <table className="plain w-full">
          <thead>
            <tr>
              <th className="w-56">In</th>
              <th>From</th>
              <th>Since</th>
              <th>Last used</th>
              <th>
                <span className="sr-only">End it</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {data.map((one) => (
              <tr key={one.id}>
                <td className="font-semibold">{one.agent ?? 'Another program'}</td>
                <td>{one.connection}</td>
                <td>{moment(one.began_at, timeZone)}</td>
                <td>{moment(one.last_use, timeZone)}</td>
                <td className="text-right">
                  {one.current ? (
                    <span className="muted">this one</span>
                  ) : (
                    <button
                      type="button"
                      className="btn btn-xs btn-plain"
                      aria-label={`End the sign-in in ${one.agent ?? 'another program'}`}
                      onClick={() => end.mutate(one.id)}
                    >
                      End
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {data && data.length > 1 && (
        <button type="button" className="btn btn-sm btn-plain mt-2" onClick={() => endOthers.mutate()}>
          End all others
        </button>
      )}
      <p className="muted text-xs mt-2">
        A sign-in ends by itself when nothing is done in it for a while, and after twelve hours in any case.
      </p>
    </section>
  )
}
