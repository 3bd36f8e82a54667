import { useInfiniteQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { ErrorNote, Loading } from '../../parts/States'

type Verdict = 'new' | 'update' | 'same' | 'doubtful' | 'refused'
type Row = Shape<'ImportRows'>['rows'][number]

function What({ row, verdict }: { row: Row; verdict: Verdict }) {
  if (verdict === 'update')
    return (
      <>
        {row.changes.map((change) => (
          <span key={change.field} className="mr-3">
            <span className="muted">{change.label}:</span>{' '}
            {change.from ? <s className="muted">{change.from}</s> : <span className="muted">nothing</span>} → {change.to}
          </span>
        ))}
      </>
    )
  return (
    <>
      {row.reason && <strong className="font-semibold mr-2">{row.reason}</strong>}
      {row.values.map((value) => (
        <span key={value.field} className="mr-3">
          <span className="muted">{value.label}:</span> {value.value}
        </span>
      ))}
    </>
  )
}

/** Rows of one verdict, with what would become of each. */
export function FileRows({ id, verdict }: { id: number; verdict: Verdict }) {
  const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useInfiniteQuery({
    queryKey: ['imports', id, 'rows', verdict],
    queryFn: ({ pageParam }) =>
      ask(
        api.GET('/api/imports/{id}/rows', {
          params: { path: { id }, query: { verdict, ...(pageParam ? { after: pageParam } : {}) } },
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (page) => page.next_after ?? undefined,
  })
  if (error) return <ErrorNote error={error} />
  if (!data) return <Loading lines={5} />
  const rows = data.pages.flatMap((page) => page.rows)
  if (rows.length === 0) return <p className="muted py-4">None.</p>
  return (
    <>
      <table className="plain w-full">
        <thead>
          <tr>
            <th className="w-14">Line</th>
            {verdict !== 'new' && verdict !== 'refused' && <th className="w-44">Record</th>}
            <th>{verdict === 'update' ? 'What would change' : 'What it says'}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.number}>
              <td className="muted align-top">{row.number}</td>
              {verdict !== 'new' && verdict !== 'refused' && (
                <td className="align-top">
                  <Link to={`/people/${row.person_id}`} className="hover:underline font-semibold">
                    {row.person}
                  </Link>
                </td>
              )}
              <td>
                <What row={row} verdict={verdict} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {hasNextPage && (
        <button type="button" className="btn btn-sm btn-plain mt-3" disabled={isFetchingNextPage} onClick={() => fetchNextPage()}>
          More rows
        </button>
      )}
    </>
  )
}
