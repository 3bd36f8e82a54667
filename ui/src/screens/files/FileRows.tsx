import { useInfiniteQuery } from '@tanstack/react-query'
import { ArrowRight } from 'lucide-react'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { writeDate } from '../../app/dates'
import { useSession } from '../../app/session'
import { ErrorNote, Loading } from '../../parts/States'

type Verdict = 'new' | 'update' | 'same' | 'doubtful' | 'refused'
type Row = Shape<'ImportRows'>['rows'][number]

/** A value as the firm writes it. */
function useShown() {
  const { firm } = useSession()
  return (value: string | null | undefined) =>
    value && /^\d{4}-\d\d-\d\d$/.test(value) ? writeDate(value, firm.date_order) : value
}

function Changes({ row }: { row: Row }) {
  const shown = useShown()
  return (
    <td>
      {row.changes.map((change) => (
        <span key={change.field} className="mr-3">
          <span className="muted">{change.label}:</span>{' '}
          {change.from ? <s className="muted">{shown(change.from)}</s> : <span className="muted">nothing</span>}{' '}
          <ArrowRight className="mark" role="img" aria-label="becomes" /> {shown(change.to)}
        </span>
      ))}
    </td>
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
  const shown = useShown()
  if (error) return <ErrorNote error={error} />
  if (!data) return <Loading lines={5} />
  const rows = data.pages.flatMap((page) => page.rows)
  // The columns of the file, as far as these rows have something in them.
  const columns = [...new Map(rows.flatMap((row) => row.values.map((value) => [value.field, value] as const))).values()].slice(
    0,
    7,
  )
  const why = rows.some((row) => row.reason)
  if (rows.length === 0) return <p className="muted py-4">None.</p>
  return (
    <>
      <div className="overflow-x-auto">
        <table className="plain w-full">
          <thead>
            <tr>
              <th className="w-14">Line</th>
              {verdict !== 'new' && verdict !== 'refused' && <th className="w-44">Record</th>}
              {why && <th>{['doubtful', 'refused'].includes(verdict) ? 'Why' : 'Left out of it'}</th>}
              {verdict === 'update' ? (
                <th>What would change</th>
              ) : (
                columns.map((column) => <th key={column.field}>{column.label}</th>)
              )}
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
                {why && <td className="font-semibold">{row.reason}</td>}
                {verdict === 'update' ? (
                  <Changes row={row} />
                ) : (
                  columns.map((column) => (
                    <td key={column.field} className="max-w-32 truncate">
                      {shown(row.values.find((value) => value.field === column.field)?.value) ?? <span className="muted">—</span>}
                    </td>
                  ))
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {hasNextPage && (
        <button type="button" className="btn btn-sm btn-plain mt-3" disabled={isFetchingNextPage} onClick={() => fetchNextPage()}>
          More rows
        </button>
      )}
    </>
  )
}
