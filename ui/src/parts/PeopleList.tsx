import { useInfiniteQuery } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { Link } from 'react-router'
import type { Shape } from '../api/client'
import { number, plural } from '../app/format'
import { Modal } from './Modal'
import { ErrorNote, Loading } from './States'

/** A page of people; the first without a cursor. */
export type LoadPeople = (cursor?: string) => Promise<Shape<'PeoplePage'>>

/**
 * The people behind a number, all of them: further ones come as one goes down the list. Each leads to the record, where it can
 * be mended. A figure that counts letters says so when some had several.
 */
export function PeopleBehind({
  title,
  letters,
  load,
  queryKey,
  onClose,
}: {
  title: string
  letters?: number
  load: LoadPeople
  queryKey: unknown[]
  onClose: () => void
}) {
  const pages = useInfiniteQuery({
    queryKey: ['behind', ...queryKey],
    queryFn: ({ pageParam }) => load(pageParam || undefined),
    initialPageParam: '',
    getNextPageParam: (page) => page.next_cursor ?? undefined,
  })
  const { data, error, hasNextPage, isFetchingNextPage, fetchNextPage } = pages
  const total = data?.pages[0]?.total ?? 0
  const people = data?.pages.flatMap((page) => page.people) ?? []
  const end = useRef<HTMLDivElement>(null)
  useEffect(() => {
    const node = end.current
    if (!node || !hasNextPage || isFetchingNextPage || typeof IntersectionObserver === 'undefined') return
    const seen = new IntersectionObserver(([entry]) => entry?.isIntersecting && fetchNextPage())
    seen.observe(node)
    return () => seen.disconnect()
  }, [hasNextPage, isFetchingNextPage, fetchNextPage])
  return (
    <Modal wide title={title} onClose={onClose}>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Loading lines={5} />}
      {data && (
        <>
          <p className="muted mb-2">
            {letters !== undefined && letters > total && `${plural(letters, 'letter')} to `}
            {plural(total, 'person', 'people')}
            {total > people.length && `, ${number(people.length)} of them below so far`}
          </p>
          <ul>
            {people.map((person) => (
              <li key={person.id} className="border-b border-base-300/60">
                <Link
                  to={`/people/${person.id}`}
                  onClick={onClose}
                  className="row-link grid grid-cols-[1fr_1fr_1.3fr] gap-3 py-2 px-1"
                >
                  <span className="font-semibold truncate">{person.name}</span>
                  <span className="muted truncate">{person.company ?? 'no company'}</span>
                  <span className="muted truncate">{person.email ?? 'no address'}</span>
                </Link>
              </li>
            ))}
          </ul>
          <div ref={end} />
          {hasNextPage && (
            <button
              type="button"
              className="btn btn-sm btn-plain mt-3"
              disabled={isFetchingNextPage}
              onClick={() => fetchNextPage()}
            >
              More of them
            </button>
          )}
        </>
      )}
      <div className="mt-4 text-right">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Close
        </button>
      </div>
    </Modal>
  )
}
