import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { bytes, moment } from '../../app/format'
import { useKeys } from '../../app/keys'
import { useSession } from '../../app/session'
import { classes } from '../../parts/classes'
import { Header } from '../../parts/Header'
import { LetterFrame } from '../../parts/LetterFrame'
import { Segments } from '../../parts/Segments'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { LetterPlaces } from '../letters/library/LetterPlaces'

type View = 'desk' | 'phone' | 'text' | 'source'

function Reading({ id, view }: { id: number; view: View }) {
  const { firm } = useSession()
  const { data, error } = useQuery({
    queryKey: ['practice-letter', id],
    queryFn: () => ask(api.GET('/api/practice/letters/{id}', { params: { path: { id } } })),
    placeholderData: keepPreviousData,
  })
  if (error) return <ErrorNote error={error} />
  if (!data) return <Loading />
  return (
    <article aria-label="Letter that arrived">
      <h2 className="text-xl">{data.subject}</h2>
      <p className="muted text-[13px] mb-3">
        From {data.from} to {data.to}, {moment(data.received_at, firm.time_zone)}
        {(data.attachments ?? []).map((file) => ` · ${file.name}, ${bytes(file.bytes)}`)}
      </p>
      {(view === 'desk' || view === 'phone') && (
        <LetterFrame key={view} phone={view === 'phone'} src={`/api/practice/letters/${id}/shown`} title="Letter as shown" />
      )}
      {view === 'text' && <pre className="sheet px-6 py-5 whitespace-pre-wrap font-mono text-[13px] leading-5">{data.text}</pre>}
      {view === 'source' && (
        <pre className="sheet px-6 py-5 whitespace-pre-wrap break-all font-mono text-[12px] leading-5">{data.source}</pre>
      )}
    </article>
  )
}

function Row({ letter, chosen }: { letter: Shape<'PracticeLetter'>; chosen: boolean }) {
  const { firm } = useSession()
  return (
    <Link
      to={`/practice-post/${letter.id}`}
      aria-current={chosen}
      className={classes(
        'block px-3 py-2 border-b border-base-300/60 border-l-[3px]',
        chosen ? 'border-l-primary bg-base-200' : 'border-l-transparent hover:bg-base-200',
      )}
    >
      <span className="flex justify-between gap-2">
        <span className="truncate font-semibold">{letter.to}</span>
        <span className="muted text-xs whitespace-nowrap">{moment(letter.received_at, firm.time_zone)}</span>
      </span>
      <span className="block truncate text-[13px]">
        {letter.test && <span className="text-accent font-semibold">test · </span>}
        {letter.subject.replace(/^Test: /, '')}
      </span>
    </Link>
  )
}

/** What arrived, newest first; older pages are added below. */
function useArrived(words: string) {
  return useInfiniteQuery({
    queryKey: ['practice-letters', words],
    queryFn: ({ pageParam }) =>
      ask(api.GET('/api/practice/letters', { params: { query: { words: words || undefined, before: pageParam ?? undefined } } })),
    initialPageParam: null as number | null,
    getNextPageParam: (last) => last.next_before,
    placeholderData: keepPreviousData,
    refetchInterval: 5000,
  })
}

/** The practice post office's own small mail viewer: any letter that went out, as shown, as text, as source. */
export function PracticePostScreen() {
  const given = useParams().id
  const [words, setWords] = useState('')
  const [view, setView] = useState<View>('desk')
  const navigate = useNavigate()
  const { data, error, refetch, hasNextPage, fetchNextPage, isFetchingNextPage } = useArrived(words)
  const letters = data?.pages.flatMap((page) => page.letters)
  const chosen = given ? Number(given) : letters?.[0]?.id
  const leaf = (by: number) => {
    const next = letters?.[letters.findIndex((letter) => letter.id === chosen) + by]
    if (next) navigate(`/practice-post/${next.id}`)
  }
  useKeys([
    { key: 'j', words: 'Next letter', run: () => leaf(1) },
    { key: 'k', words: 'Letter before', run: () => leaf(-1) },
    {
      key: 'v',
      words: 'Another way of showing it',
      run: () => setView((now) => ({ desk: 'phone', phone: 'text', text: 'source', source: 'desk' })[now] as View),
    },
  ])
  return (
    <>
      <Header
        title="Practice post"
        aside={<span className="muted">What reached the practice post office; nothing has left this machine.</span>}
        actions={
          <Segments
            label="Shown as"
            chosen={view}
            onChoose={setView}
            options={[
              { value: 'desk', words: 'Desk' },
              { value: 'phone', words: 'Phone' },
              { value: 'text', words: 'Text' },
              { value: 'source', words: 'Source' },
            ]}
          />
        }
      />
      <LetterPlaces />
      {error && <ErrorNote error={error} retry={refetch} />}
      {!data && !error && <Loading />}
      {letters?.length === 0 && !words && <Empty>No letter has reached the practice post office yet.</Empty>}
      {letters && (letters.length > 0 || words) && (
        <div className="grid grid-cols-[330px_minmax(0,1fr)] gap-6 items-start">
          <div>
            <input
              type="search"
              className="text-field mb-2"
              placeholder="To whom"
              aria-label="Find by address"
              value={words}
              onChange={(event) => setWords(event.target.value)}
            />
            <div className="border border-base-300 rounded-sm bg-[var(--sheet)] max-h-[calc(100vh-250px)] overflow-auto">
              {letters.map((letter) => (
                <Row key={letter.id} letter={letter} chosen={letter.id === chosen} />
              ))}
              {letters.length === 0 && <p className="muted p-3">Nobody of that address.</p>}
              {hasNextPage && (
                <button
                  type="button"
                  className="block w-full p-2.5 text-center text-primary underline underline-offset-2"
                  disabled={isFetchingNextPage}
                  onClick={() => fetchNextPage()}
                >
                  Older letters
                </button>
              )}
            </div>
          </div>
          {chosen && <Reading id={chosen} view={view} />}
        </div>
      )}
    </>
  )
}
