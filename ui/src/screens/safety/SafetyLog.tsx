import { useInfiniteQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { moment } from '../../app/format'
import { ErrorNote, Loading } from '../../parts/States'
import { SAFETY_KINDS } from './safetyKinds'

/** What matters to safety, newest first. Nobody can change or take away a line, admins neither. */
export function SafetyLog({ timeZone }: { timeZone: string }) {
  const [kind, setKind] = useState<Shape<'SafetyKind'> | ''>('')
  const log = useInfiniteQuery({
    queryKey: ['safety-log', kind],
    queryFn: ({ pageParam }) =>
      ask(
        api.GET('/api/safety-log', {
          params: { query: { ...(kind ? { kind } : {}), ...(pageParam ? { before: pageParam } : {}) } },
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (page) => page.next_before ?? undefined,
  })
  const lines = log.data?.pages.flatMap((page) => page.lines)
  return (
    <section className="mb-8 max-w-5xl">
      <div className="border-b border-base-300 pb-1 mb-1 flex items-end gap-4">
        <h2 className="grow">What matters to safety</h2>
        <select
          className="select select-sm bg-[var(--sheet)] w-56"
          aria-label="Show only"
          value={kind}
          onChange={(event) => setKind(event.target.value as typeof kind)}
        >
          <option value="">everything</option>
          {Object.entries(SAFETY_KINDS).map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </select>
      </div>
      {log.error && <ErrorNote error={log.error} />}
      {!lines && !log.error && <Loading lines={5} />}
      {lines?.length === 0 && <p className="muted my-3">Nothing of this kind.</p>}
      {lines && lines.length > 0 && (
        <table className="plain w-full">
          <thead>
            <tr>
              <th className="w-40">When</th>
              <th className="w-44">What</th>
              <th className="w-60">Who</th>
              <th>About</th>
              <th className="w-28">From</th>
            </tr>
          </thead>
          <tbody>
            {lines.map((line) => (
              <tr key={line.id}>
                <td className="whitespace-nowrap">{moment(line.at, timeZone)}</td>
                <td>{SAFETY_KINDS[line.kind]}</td>
                <td className="break-words">{line.who}</td>
                <td>{line.about}</td>
                <td className="muted">{line.connection}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="muted text-xs mt-2">
        By the clock on the wall, not the practice clock. Nobody can change or take away a line, admins neither.
      </p>
      {log.hasNextPage && (
        <button
          type="button"
          className="btn btn-sm btn-plain mt-2"
          disabled={log.isFetchingNextPage}
          onClick={() => log.fetchNextPage()}
        >
          Earlier ones
        </button>
      )}
    </section>
  )
}
