import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { plural } from '../../app/format'
import { useSession } from '../../app/session'
import { Header } from '../../parts/Header'
import { Modal } from '../../parts/Modal'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { byReason, canBeLeft, kindWords } from './kinds'
import { SetAsideRow } from './SetAsideRow'

type Thing = Shape<'SetAside'>
type Move = 'again' | 'leave'

/** What leaving means, asked once, with the number. */
function LeaveQuestion({ things, onLeave, onClose }: { things: Thing[]; onLeave: () => void; onClose: () => void }) {
  const letters = things[0]?.kind === 'letter'
  const words = `${things.length} ${kindWords(things[0]?.kind ?? '', things.length)}`
  return (
    <Modal title={letters ? `Go on without ${words}?` : `Leave ${words}?`} onClose={onClose}>
      <p className="mb-4">
        {letters
          ? `${plural(things.length, 'person', 'people')} will not get it, and will get what comes after it. This cannot be undone.`
          : 'It stays in its folder and is not worked on. It is no longer shown here.'}
      </p>
      <div className="flex justify-end gap-2">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Not now
        </button>
        <button type="button" className="btn btn-sm btn-primary" onClick={onLeave}>
          {letters ? 'Go on without' : 'Leave'}
        </button>
      </div>
    </Modal>
  )
}

const LOOKS_MS = 3000

/** What could not be worked on, with its reasons: looked at, tried again, or left. It stops nothing else. */
export function SetAsideScreen() {
  const { firm } = useSession()
  const client = useQueryClient()
  const [leaving, setLeaving] = useState<Thing[] | null>(null)
  const query = useInfiniteQuery({
    queryKey: ['set-aside'],
    queryFn: ({ pageParam }) => ask(api.GET('/api/set-aside', { params: { query: { cursor: pageParam } } })),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (page) => page.next_cursor ?? undefined,
    // A letter whose gap has been filled goes by itself.
    refetchInterval: ({ state }) => state.data?.pages.some((page) => page.things.some((thing) => thing.gap)) && LOOKS_MS,
  })
  const move = useMutation({
    mutationFn: ({ things, to }: { things: Thing[]; to: Move }) => {
      const body = { ids: things.map((thing) => thing.id) }
      return ask(to === 'again' ? api.POST('/api/set-aside/again', { body }) : api.POST('/api/set-aside/leave', { body }))
    },
    onSuccess: () => client.invalidateQueries(),
  })
  if (query.error) return <ErrorNote error={query.error} retry={query.refetch} />
  if (!query.data) return <Loading />
  const things = query.data.pages.flatMap((page) => page.things)
  const total = query.data.pages[0]?.total ?? 0
  return (
    <>
      <Header title="Set aside" aside={<span className="muted">{total > 0 && plural(total, 'thing')}</span>} />
      <p className="muted mb-5 max-w-2xl">
        These could not be worked on. Nothing else waits for them. A letter keeps its person where they are until it goes, or
        until you go on without it. One with a gap goes by itself as soon as the gap is filled.
      </p>
      {move.error && <ErrorNote error={move.error} />}
      {things.length === 0 && <Empty>Nothing is set aside.</Empty>}
      {byReason(things).map((group) => (
        <section key={`${group.kind}${group.reason}`} className="mb-7" aria-label={group.reason}>
          <div className="flex items-baseline gap-3 border-b border-base-300 pb-1.5">
            <h2 className="whitespace-nowrap">
              {group.things.length} {kindWords(group.kind, group.things.length)}
            </h2>
            <span className="grow">{group.reason}</span>
            {group.things.length > 1 && (
              <button
                type="button"
                className="btn btn-xs btn-plain"
                onClick={() => move.mutate({ things: group.things, to: 'again' })}
              >
                Try all {group.things.length} again
              </button>
            )}
            {group.things.length > 1 && canBeLeft(group.kind) && (
              <button type="button" className="btn btn-xs btn-plain" onClick={() => setLeaving(group.things)}>
                {group.kind === 'letter' ? 'Go on without them' : 'Leave them'}
              </button>
            )}
          </div>
          {group.things.map((thing) => (
            <SetAsideRow
              key={thing.id}
              thing={thing}
              timeZone={firm.time_zone}
              onAgain={() => move.mutate({ things: [thing], to: 'again' })}
              onLeave={() => setLeaving([thing])}
            />
          ))}
        </section>
      ))}
      {query.hasNextPage && (
        <button type="button" className="btn btn-sm btn-plain" onClick={() => query.fetchNextPage()}>
          Show more
        </button>
      )}
      {leaving && (
        <LeaveQuestion
          things={leaving}
          onClose={() => setLeaving(null)}
          onLeave={() => {
            move.mutate({ things: leaving, to: 'leave' })
            setLeaving(null)
          }}
        />
      )}
    </>
  )
}
