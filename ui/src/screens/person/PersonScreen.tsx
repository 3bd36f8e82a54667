import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { day, money } from '../../app/format'
import { useKeys } from '../../app/keys'
import { useSession } from '../../app/session'
import { useCatalogue } from '../../app/useCatalogue'
import { useCreate } from '../../app/useCreate'
import { Header } from '../../parts/Header'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { History } from './History'
import { RecordForm } from './RecordForm'

function Facts({ person }: { person: Shape<'Person'> }) {
  const { firm } = useSession()
  return (
    <div className="mt-6 grid gap-5">
      <section>
        <h2 className="border-b border-base-300 pb-1 mb-2">Deals</h2>
        {person.deals.length === 0 && <p className="muted">None.</p>}
        {person.deals.map((deal) => (
          <p key={`${deal.name}${deal.stage}`} className="flex justify-between py-0.5">
            <span>
              {deal.name} <span className="muted">· {deal.stage}</span>
            </span>
            {money(deal.value_pence)}
          </p>
        ))}
      </section>
      <section>
        <h2 className="border-b border-base-300 pb-1 mb-2">Sequences</h2>
        {person.memberships?.length === 0 && <p className="muted">In none so far.</p>}
        {person.memberships?.map((membership) => (
          <Link
            key={`${membership.sequence_id}${membership.state}`}
            to={`/sequences/${membership.sequence_id}`}
            className="row-link flex justify-between py-0.5"
          >
            {membership.sequence}
            <span className="muted">{membership.status}</span>
          </Link>
        ))}
      </section>
      <p className="muted text-xs">
        Record since {person.created_at && day(person.created_at, firm.time_zone)} {person.created_at?.slice(0, 4)}
        {person.fitted_on && ` · room fitted ${day(person.fitted_on, 'UTC')} ${person.fitted_on.slice(0, 4)}`}
      </p>
    </div>
  )
}

function NoteForm({ id }: { id: number }) {
  const client = useQueryClient()
  const [text, setText] = useState('')
  const save = useMutation({
    mutationFn: () => ask(api.POST('/api/people/{id}/notes', { params: { path: { id } }, body: { text } })),
    onSuccess: () => {
      setText('')
      client.invalidateQueries({ queryKey: ['history', id] })
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (text.trim()) save.mutate()
  }
  return (
    <form onSubmit={submit} className="flex gap-2 mb-4">
      <input
        id="note"
        className="text-field"
        aria-label="Note"
        placeholder="Note a call, a visit, anything worth keeping"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <button type="submit" className="btn btn-sm btn-plain" disabled={!text.trim() || save.isPending}>
        Keep note
      </button>
      {save.error && <ErrorNote error={save.error} />}
    </form>
  )
}

/** One person: the record on the left, everything that happened on the right. */
export function PersonScreen() {
  const id = Number(useParams().id)
  const navigate = useNavigate()
  const create = useCreate()
  const { data: catalogue } = useCatalogue()
  const {
    data: person,
    error,
    refetch,
  } = useQuery({ queryKey: ['person', id], queryFn: () => ask(api.GET('/api/people/{id}', { params: { path: { id } } })) })
  const history = useInfiniteQuery({
    queryKey: ['history', id],
    queryFn: ({ pageParam }) =>
      ask(api.GET('/api/people/{id}/history', { params: { path: { id }, query: { cursor: pageParam } } })),
    initialPageParam: undefined as string | undefined,
    getNextPageParam: (page) => page.next_cursor ?? undefined,
  })
  useKeys([
    { key: 'n', words: 'Write a note', run: () => document.getElementById('note')?.focus() },
    { key: 'b', words: 'Back to people', run: () => navigate('/people') },
  ])
  if (error) return <ErrorNote error={error} retry={refetch} />
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
            <span className="muted">{[person.job_title, person.company].filter(Boolean).join(', ')}</span>
            <span className="chip bg-[var(--merged)] text-primary">{standing}</span>
            {!person.may_write && (
              <span className="chip bg-[var(--gap)] text-error">
                {person.do_not_mail
                  ? 'do not mail'
                  : person.address_failed
                    ? 'address failed'
                    : person.email
                      ? 'said no to letters'
                      : 'no address'}
              </span>
            )}
          </>
        }
        actions={
          <button
            type="button"
            className="btn btn-sm btn-primary"
            disabled={!person.may_write}
            onClick={() => create.sequence.mutate({ name: `To ${person.name}`, audience: { people: [id] } })}
          >
            Write to {person.first_name ?? 'them'}…
          </button>
        }
      />
      <div className="grid grid-cols-[330px_minmax(0,1fr)] gap-10">
        <div>
          <RecordForm key={person.version} person={person} catalogue={catalogue} />
          <Facts person={person} />
        </div>
        <section aria-label="History">
          <h2 className="border-b border-base-300 pb-1 mb-3">History</h2>
          <NoteForm id={id} />
          {history.error && <ErrorNote error={history.error} />}
          {history.data?.pages[0]?.entries.length === 0 && <Empty>Nothing has happened yet.</Empty>}
          {history.data && <History entries={history.data.pages.flatMap((page) => page.entries)} />}
          {history.hasNextPage && (
            <button type="button" className="btn btn-sm btn-plain mt-3" onClick={() => history.fetchNextPage()}>
              Earlier
            </button>
          )}
        </section>
      </div>
    </>
  )
}
