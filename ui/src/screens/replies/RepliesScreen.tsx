import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { moment } from '../../app/format'
import { useKeys } from '../../app/keys'
import { useSession } from '../../app/session'
import { useInAddress } from '../../app/useInAddress'
import { inTurn } from '../../app/useInTurn'
import { classes } from '../../parts/classes'
import { DoneNote } from '../../parts/DoneNote'
import { Header } from '../../parts/Header'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { ReplyPane } from './ReplyPane'
import type { Sort } from './sorts'

type Reply = Shape<'Reply'>
const VIEWS = [
  { key: 'new', words: 'New' },
  { key: 'interested', words: 'Interested' },
  { key: 'later', words: 'Later' },
  { key: 'no', words: 'No' },
  { key: 'done', words: 'Done' },
  { key: 'automatic', words: 'Automatic' },
  { key: 'all', words: 'All' },
] as const
const SORT_WORDS: Record<string, string> = Object.fromEntries(VIEWS.map(({ key, words }) => [key, words]))
const NEWEST = { show: 'new', open: '' }
const KIND: Partial<Record<Reply['kind'], string>> = {
  automatic: 'automatic answer',
  bounce: 'address failed',
  unsubscribe: 'wants no letters',
  unmatched: 'from nobody we know',
}

/** What came back, read and sorted with the keyboard. */
export function RepliesScreen() {
  const { firm } = useSession()
  const client = useQueryClient()
  const [shown, show] = useInAddress(NEWEST)
  const view = VIEWS.find((one) => one.key === shown.show)?.key ?? 'new'
  const setOpen = (reply: Reply | undefined) => show({ open: reply ? String(reply.id) : '' })
  const query = useInfiniteQuery({
    queryKey: ['replies', view],
    queryFn: ({ pageParam }) => ask(api.GET('/api/replies', { params: { query: { show: view, cursor: pageParam } } })),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (page) => page.next_cursor ?? undefined,
  })
  const replies = query.data?.pages.flatMap((page) => page.replies) ?? []
  const at = Math.max(
    0,
    replies.findIndex((reply) => String(reply.id) === shown.open),
  )
  const open = replies[at]
  const sort = useMutation({
    mutationFn: ({ reply, to }: { reply: Reply; to: Sort }) =>
      inTurn(client, ['replies', reply.id], reply.version, (version) =>
        ask(api.PATCH('/api/replies/{id}', { params: { path: { id: reply.id } }, body: { sort: to, version } })),
      ),
    scope: { id: 'replies' },
    onSuccess: () => {
      client.invalidateQueries({ queryKey: ['replies'] })
      client.invalidateQueries({ queryKey: ['today'] })
    },
  })
  const go = (to: number) => setOpen(replies[Math.max(0, Math.min(replies.length - 1, to))])
  // What was sorted since one came here, the newest first; each can be undone.
  const [sorted, setSorted] = useState<{ reply: Reply; to: Sort }[]>([])
  const sortTo = (to: Sort) => {
    if (!open || open.sort === to) return
    setOpen(replies[at + 1] ?? replies[at - 1])
    setSorted([{ reply: open, to }, ...sorted])
    sort.mutate({ reply: open, to })
  }
  const [last, ...before] = sorted
  const undo = () => {
    if (!last) return
    setSorted(before)
    sort.mutate({ reply: last.reply, to: last.reply.sort })
    setOpen(last.reply)
  }
  useKeys([
    { key: 'j', words: 'Next reply', run: () => go(at + 1) },
    { key: 'k', words: 'Reply before', run: () => go(at - 1) },
    { key: 'i', words: 'Interested', run: () => sortTo('interested') },
    { key: 'l', words: 'Later', run: () => sortTo('later') },
    { key: 'x', words: 'No', run: () => sortTo('no') },
    { key: 'd', words: 'Done', run: () => sortTo('done') },
    { key: 'ctrl+z', words: 'Undo the last sorting', run: undo },
  ])
  const row = useRef<HTMLButtonElement>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each reply that is opened
  useEffect(() => {
    row.current?.scrollIntoView({ block: 'nearest' })
  }, [open?.id])
  const counts = query.data?.pages[0]?.counts
  return (
    <>
      <Header title="Replies" />
      {last && (
        <DoneNote
          words={`“${SORT_WORDS[last.to]}” for ${last.reply.name}.`}
          undo={undo}
          undoing={sort.isPending}
          onClose={() => setSorted([])}
        />
      )}
      <nav aria-label="Sorted as" className="flex gap-5 border-b border-base-300 mb-4">
        {VIEWS.map((one) => (
          <button
            key={one.key}
            type="button"
            aria-pressed={view === one.key}
            className={classes(
              'pb-1.5 border-b-2',
              view === one.key ? 'border-primary font-semibold' : 'border-transparent muted hover:text-base-content',
            )}
            onClick={() => show({ show: one.key, open: '' })}
          >
            {one.words} {/* Room for a number: nothing moves under somebody's hand when it comes. */}
            <span
              className={classes(
                'inline-block min-w-5 text-left',
                one.key === 'new' && counts?.[one.key] ? 'text-error' : 'muted',
              )}
            >
              {counts?.[one.key]}
            </span>
          </button>
        ))}
      </nav>
      {(query.error || sort.error) && <ErrorNote error={query.error ?? sort.error} retry={query.refetch} />}
      {!query.data && !query.error && <Loading />}
      {query.data && replies.length === 0 && <Empty>{view === 'new' ? 'Everything is read.' : 'Nothing here.'}</Empty>}
      {open && (
        <div className="grid grid-cols-[330px_minmax(0,1fr)] gap-6 items-start">
          <div className="border border-base-300 rounded-sm bg-[var(--sheet)] max-h-[calc(100vh-190px)] overflow-auto">
            {replies.map((reply) => (
              <button
                key={reply.id}
                type="button"
                aria-current={reply.id === open.id}
                ref={reply.id === open.id ? row : undefined}
                onClick={() => setOpen(reply)}
                className={classes(
                  'block w-full text-left px-3 py-2 border-b border-base-300/60 border-l-[3px]',
                  reply.id === open.id ? 'border-l-primary bg-base-100' : 'border-l-transparent hover:bg-base-200',
                )}
              >
                <span className="flex justify-between gap-2">
                  <strong className="font-semibold truncate">{reply.name}</strong>
                  <span className="muted text-xs whitespace-nowrap">{moment(reply.received_at, firm.time_zone)}</span>
                </span>
                <span className="block muted text-xs truncate">
                  {[KIND[reply.kind], reply.company].filter(Boolean).join(' · ')}
                </span>
                <span className="block font-serif text-[15px] truncate">{reply.text}</span>
              </button>
            ))}
            {query.hasNextPage && (
              <button type="button" className="btn btn-xs btn-plain m-2" onClick={() => query.fetchNextPage()}>
                Earlier
              </button>
            )}
          </div>
          <ReplyPane key={open.id} reply={open} onSort={sortTo} />
        </div>
      )}
    </>
  )
}
