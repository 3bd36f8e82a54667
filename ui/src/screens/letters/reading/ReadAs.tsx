import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { api, ask } from '../../../api/client'
import { InboxLine } from '../../../parts/InboxLine'
import { LetterFrame } from '../../../parts/LetterFrame'
import { Segments } from '../../../parts/Segments'
import { ErrorNote, Loading } from '../../../parts/States'
import { FindPerson } from './FindPerson'
import { InboxLines } from './InboxLines'

type View = 'desk' | 'phone' | 'text' | 'inbox'
type Want = 'next' | 'before' | 'gap' | 'random'

/** The letter as one real person gets it. */
export function ReadAs({
  letterId,
  version,
  personId,
  onPerson,
}: {
  letterId: number
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
    queryKey: ['preview', letterId, personId],
    queryFn: () =>
      ask(
        api.GET('/api/letters/{id}/preview', {
          params: { path: { id: letterId }, query: personId ? { person_id: personId } : {} },
        }),
      ),
    placeholderData: (before) => before,
  })
  const go = async (want: Want) => {
    const found = await client.fetchQuery({
      queryKey: ['reader', letterId, want, data?.person_id, version, want === 'random' ? performance.now() : 0],
      queryFn: () =>
        ask(api.GET('/api/letters/{id}/reader', { params: { path: { id: letterId }, query: { want, after: data?.person_id } } })),
    })
    if (found.person_id) onPerson(found.person_id)
  }
  const move = (want: Want, words: string, label: string) => (
    <button type="button" className="btn btn-xs btn-plain" aria-label={label} title={label} onClick={() => go(want)}>
      {words}
    </button>
  )
  return (
    <div ref={room}>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Loading />}
      {data && (
        <>
          <div className="flex items-center gap-1.5 mb-2 text-xs">
            <FindPerson
              words={
                <>
                  <strong className="font-semibold">{data.person}</strong>
                  {data.company && <span className="muted">, {data.company}</span>}
                </>
              }
              onPick={onPerson}
            />
            <span className="grow" />
            {move('before', '‹', 'Somebody before')}
            {move('next', '›', 'Somebody else')}
            {move('gap', 'Gap', 'Next one with a gap')}
            {move('random', 'Any', 'Anybody')}
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
              <LetterFrame
                phone={view === 'phone'}
                width={width}
                src={`/api/letters/${letterId}/shown?person_id=${data.person_id}&v=${version}`}
              />
            </>
          )}
        </>
      )}
    </div>
  )
}
