import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate, useParams, useSearchParams } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { inTheWay } from '../../app/away'
import { useTellChange } from '../../app/changes'
import { day } from '../../app/format'
import { useKeys } from '../../app/keys'
import { useSession } from '../../app/session'
import { useCatalogue } from '../../app/useCatalogue'
import { useCreate } from '../../app/useCreate'
import { Header } from '../../parts/Header'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { AddOne } from '../sequences/members/AddOne'
import { OpenTasks, useOpenTasks } from '../tasks/OpenTasks'
import { Deals } from './Deals'
import { History } from './History'
import { canEndNo, EndsNo, NoLetters } from './NoLetters'
import { NoteForm } from './NoteForm'
import { RecordForm } from './RecordForm'

type About = 'letters' | 'answers' | 'notes' | 'record' | 'sequences'
const ABOUT: { value: About | null; words: string }[] = [
  { value: null, words: 'Everything' },
  { value: 'letters', words: 'Letters' },
  { value: 'answers', words: 'Answers' },
  { value: 'notes', words: 'Notes and calls' },
  { value: 'sequences', words: 'Sequences' },
  { value: 'record', words: 'Record' },
]

function Memberships({ person }: { person: Shape<'Person'> }) {
  const { firm } = useSession()
  return (
    <section>
      <h2 className="border-b border-base-300 pb-1 mb-2">Sequences</h2>
      {person.memberships.length === 0 && <p className="muted">In none so far.</p>}
      {person.memberships.map((membership, i) => (
        <Link
          // biome-ignore lint/suspicious/noArrayIndexKey: one may have been in a sequence twice
          key={i}
          to={`/sequences/${membership.sequence_id}`}
          className="row-link flex justify-between py-0.5"
        >
          {membership.sequence}
          <span className="muted">{membership.status}</span>
        </Link>
      ))}
      <p className="muted text-xs mt-2">Record since {day(person.created_at, firm.time_zone)}</p>
    </section>
  )
}

/** What colleagues are to do for them. */
function TheirTasks({ id }: { id: number }) {
  const query = useOpenTasks({ person_id: id })
  if (!query.data?.pages[0]?.total) return null
  return (
    <section className="mb-6">
      <h2 className="border-b border-base-300 pb-1 mb-1">To do</h2>
      <OpenTasks query={query} person={false} />
    </section>
  )
}

/** One person: the record on the left, everything that happened on the right. */
export function PersonScreen() {
  const id = Number(useParams().id)
  const navigate = useNavigate()
  const [params, setParams] = useSearchParams()
  const create = useCreate()
  const tell = useTellChange()
  const { data: catalogue } = useCatalogue()
  const [about, setAbout] = useState<About | null>(null)
  const {
    data: person,
    error,
    refetch,
  } = useQuery({ queryKey: ['person', id], queryFn: () => ask(api.GET('/api/people/{id}', { params: { path: { id } } })) })
  const history = useInfiniteQuery({
    queryKey: ['history', id, about],
    queryFn: ({ pageParam }) =>
      ask(
        api.GET('/api/people/{id}/history', {
          params: { path: { id }, query: { cursor: pageParam, ...(about ? { about } : {}) } },
        }),
      ),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (page) => page.next_cursor ?? undefined,
  })
  const bin = useMutation({
    mutationFn: (kind: 'bin' | 'restore') => ask(api.POST('/api/changes', { body: { act: { kind }, people: { ids: [id] } } })),
    onSuccess: (change) => {
      tell(change)
      refetch()
    },
  })
  const write = () => create.letter.mutate({ audience: { people: [id] } })
  useKeys([
    ...(person?.may_write && !person.deleted_at ? [{ key: 'w', words: 'Write to them…', leaves: true, run: write }] : []),
    { key: 'n', words: 'Write a note', run: () => document.getElementById('note')?.focus() },
    { key: 'a', words: 'Add to a sequence…', run: () => setParams({ join: '1' }, { replace: true }) },
    { key: 'b', words: 'Back to people', leaves: true, run: () => navigate('/people') },
  ])
  if (inTheWay(error, person)) return <ErrorNote error={error} retry={refetch} />
  if (!person || !catalogue) return <Loading />
  const standing = catalogue.fields
    .find((field) => field.key === 'person.standing')
    ?.choices.find((choice) => choice.value === person.standing)?.words
  return (
    <>
      <Header
        over={{ to: '/people', words: 'People' }}
        title={person.name}
        aside={
          <>
            <span className="muted">
              {[person.values['person.job_title'] as string | null].filter(Boolean).join('')}
              {person.values['person.job_title'] && person.company ? ', ' : ''}
              {person.company_id && (
                <Link to={`/companies/${person.company_id}`} className="hover:underline">
                  {person.company}
                </Link>
              )}
            </span>
            <span className="chip bg-[var(--merged)] text-primary">{standing}</span>
            {person.deleted_at && <span className="chip bg-[var(--gap)] text-error">in the bin</span>}
            <NoLetters person={person} />
          </>
        }
        actions={
          <>
            <button
              type="button"
              className="btn btn-sm btn-plain"
              disabled={bin.isPending}
              onClick={() => bin.mutate(person.deleted_at ? 'restore' : 'bin')}
            >
              {person.deleted_at ? 'Take out of the bin' : 'Put in the bin'}
            </button>
            <button
              type="button"
              className="btn btn-sm btn-plain"
              disabled={!person.may_write || Boolean(person.deleted_at)}
              onClick={() => setParams({ join: '1' }, { replace: true })}
            >
              Add to a sequence…
            </button>
            {canEndNo(person) ? (
              <EndsNo person={person} />
            ) : (
              <button
                type="button"
                className="btn btn-sm btn-primary"
                disabled={!person.may_write || Boolean(person.deleted_at) || create.letter.isPending}
                onClick={write}
              >
                Write to {(person.values['person.first_name'] as string | null) ?? 'them'}…
              </button>
            )}
          </>
        }
      />
      {(bin.error || create.letter.error) && <ErrorNote error={bin.error ?? create.letter.error} />}
      {params.has('join') && <AddOne person={person} onClose={() => setParams({}, { replace: true })} />}
      <div className="grid grid-cols-[350px_minmax(0,1fr)] gap-10">
        <div>
          <RecordForm key={person.id} person={person} catalogue={catalogue} />
        </div>
        <div>
          <div className="grid grid-cols-2 gap-8 mb-6">
            <Deals person={person} catalogue={catalogue} />
            <Memberships person={person} />
          </div>
          <TheirTasks id={person.id} />
          <section aria-label="History">
            <div className="border-b border-base-300 pb-1 mb-3 flex items-baseline gap-4">
              <h2 className="grow">History</h2>
              {ABOUT.map((one) => (
                <button
                  key={one.words}
                  type="button"
                  aria-pressed={about === one.value}
                  className={`text-xs ${about === one.value ? 'font-semibold text-primary' : 'muted hover:text-primary'}`}
                  onClick={() => setAbout(one.value)}
                >
                  {one.words}
                </button>
              ))}
            </div>
            <NoteForm id={id} />
            {history.error && <ErrorNote error={history.error} />}
            {history.data?.pages[0]?.entries.length === 0 && (
              <Empty>{about ? 'Nothing of this kind so far.' : 'Nothing has happened yet.'}</Empty>
            )}
            {history.data && <History entries={history.data.pages.flatMap((page) => page.entries)} />}
            {history.hasNextPage && (
              <button type="button" className="btn btn-sm btn-plain mt-3" onClick={() => history.fetchNextPage()}>
                Earlier
              </button>
            )}
          </section>
        </div>
      </div>
    </>
  )
}
