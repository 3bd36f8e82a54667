import { useInfiniteQuery } from '@tanstack/react-query'
import { type ReactNode, useEffect, useRef } from 'react'
import { Modal } from './Modal'
import { ErrorNote, Loading } from './States'

/**
 * What is behind a number, all of it: further rows come as one goes down the list.
 *
 * @param load a page, the first without a cursor
 * @param children says the pages, and how many rows of them there are so far
 */
export function ListBehind<Page extends { next_cursor?: string | null }>({
  title,
  load,
  queryKey,
  onClose,
  children,
}: {
  title: string
  load: (cursor?: string) => Promise<Page>
  queryKey: unknown[]
  onClose: () => void
  children: (pages: Page[]) => ReactNode
}) {
  const { data, error, hasNextPage, isFetchingNextPage, fetchNextPage } = useInfiniteQuery({
    queryKey: ['behind', ...queryKey],
    queryFn: ({ pageParam }) => load(pageParam || undefined),
    initialPageParam: '',
    getNextPageParam: (page: Page) => page.next_cursor ?? undefined,
  })
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
      {data && children(data.pages)}
      <div ref={end} />
      {hasNextPage && (
        <button type="button" className="btn btn-sm btn-plain mt-3" disabled={isFetchingNextPage} onClick={() => fetchNextPage()}>
          More of them
        </button>
      )}
      <div className="mt-4 text-right">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Close
        </button>
      </div>
    </Modal>
  )
}
