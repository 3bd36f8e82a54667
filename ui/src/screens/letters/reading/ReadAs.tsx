import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { api, ask } from '../../../api/client'
import { number } from '../../../app/format'
import { useKeys } from '../../../app/keys'
import { InboxLine } from '../../../parts/InboxLine'
import { LetterFrame } from '../../../parts/LetterFrame'
import { Segments } from '../../../parts/Segments'
import { ErrorNote, Loading } from '../../../parts/States'
import { FindPerson } from './FindPerson'
import { InboxLines } from './InboxLines'
import { lookedAtFor } from './lookedAtFor'

type View = 'desk' | 'phone' | 'text' | 'inbox'
type Want = 'next' | 'before' | 'gap' | 'random'

/** Where its HTML is; another version has another address. */
function shownAt(letterId: number, personId: number, version: number, sequenceId?: number): string {
  const asked = { person_id: personId, v: version, ...lookedAtFor(sequenceId) }
  return `/api/letters/${letterId}/shown?${new URLSearchParams(Object.entries(asked).map(([key, value]) => [key, String(value)]))}`
}

/** The letter as one real person gets it. */
export function ReadAs({
  letterId,
  sequenceId,
  version,
  personId,
  onPerson,
}: {
  letterId: number
  /** The sequence it is looked at for, where one is. */
  sequenceId?: number
  version: number
  personId: number | null
  onPerson: (id: number) => void
}) {
  const [view, setView] = useState<View>('desk')
  const client = useQueryClient()
  const room = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState(400)
  useEffect(() => {
    if (room.current) setWidth(room.current.clientWidth)
  }, [])
  const { data, error } = useQuery({
    queryKey: ['preview', letterId, personId, sequenceId],
    queryFn: () =>
      ask(
        api.GET('/api/letters/{id}/preview', {
          params: { path: { id: letterId }, query: { ...(personId ? { person_id: personId } : {}), ...lookedAtFor(sequenceId) } },
        }),
      ),
    placeholderData: (before) => before,
  })
  const go = async (want: Want) => {
    const found = await client.fetchQuery({
      queryKey: ['reader', letterId, sequenceId, want, data?.person_id, version, want === 'random' ? performance.now() : 0],
      queryFn: () =>
        ask(
          api.GET('/api/letters/{id}/reader', {
            params: { path: { id: letterId }, query: { want, after: data?.person_id, ...lookedAtFor(sequenceId) } },
          }),
        ),
    })
    if (found.person_id) onPerson(found.person_id)
  }
  useKeys([
    { key: 'alt+j', words: 'The next person', whileTyping: true, run: () => go('next') },
    { key: 'alt+k', words: 'The person before', whileTyping: true, run: () => go('before') },
  ])
  const move = (want: Want, words: string, label: string, key?: string) => (
    <button
      type="button"
      className="btn btn-xs btn-plain"
      aria-label={label}
      title={key ? `${label} (Alt and ${key})` : label}
      onClick={() => go(want)}
    >
      {words}
    </button>
  )
  return (
    <div ref={room}>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Loading />}
      {data && (
        <>
          <div className="flex flex-wrap items-center gap-1.5 mb-2 text-xs">
            <FindPerson
              words={
                <>
                  <strong className="font-semibold">{data.person}</strong>
                  {data.company && <span className="muted">, {data.company}</span>}
                </>
              }
              onPick={onPerson}
            />
            {data.place && (
              <span className="muted whitespace-nowrap">
                {data.place.at ? `${number(data.place.at)} of ${number(data.place.of)}` : 'not one of them'}
              </span>
            )}
            <span className="ml-auto flex gap-1.5">
              {move('before', '‹', 'Somebody before', 'K')}
              {move('next', '›', 'Somebody else', 'J')}
              {move('gap', 'Gap', 'Next one with a gap')}
              {move('random', 'Any', 'Anybody')}
            </span>
          </div>
          <div className="flex items-center gap-2 mb-2">
            <Segments
              label="Shown as"
              chosen={view}
              onChoose={setView}
              options={[
                { value: 'desk', words: 'Desk' },
                { value: 'phone', words: 'Phone' },
                { value: 'text', words: 'Text' },
                { value: 'inbox', words: 'Inbox' },
              ]}
            />
            <span className="grow" />
            {data.gaps.length > 0 && (
              <span className="text-error text-xs font-semibold">
                {data.gaps.map((gap) => `no ${gap.label.toLowerCase()}`).join(', ')}
              </span>
            )}
          </div>
          {data.unanswered && <p className="text-accent text-xs mb-2">{data.unanswered}; its fields are empty for now.</p>}
          {view === 'inbox' && <InboxLines letter={data} />}
          {view === 'text' && (
            <pre className="sheet px-5 py-4 whitespace-pre-wrap font-mono text-[13px] leading-5">{data.text}</pre>
          )}
          {(view === 'desk' || view === 'phone') && (
            <>
              <div className="mb-2">
                <InboxLine letter={data} />
              </div>
              <LetterFrame phone={view === 'phone'} width={width} src={shownAt(letterId, data.person_id, version, sequenceId)} />
            </>
          )}
        </>
      )}
    </div>
  )
}
