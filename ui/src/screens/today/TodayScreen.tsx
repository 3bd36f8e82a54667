import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { day, moment, plural } from '../../app/format'
import { NextLetters } from '../../app/NextLetters'
import { useSession } from '../../app/session'
import { useCreate } from '../../app/useCreate'
import { useNow } from '../../app/usePost'
import { Header, StateBadge, startsAt } from '../../parts/Header'
import { ErrorNote, Loading } from '../../parts/States'
import { JoinedBy } from '../sequences/joining/WhoJoins'
import { kindWords } from '../set-aside/kinds'
import { OpenTasks, useOpenTasks } from '../tasks/OpenTasks'

function Section({ title, more, children }: { title: string; more?: ReactNode; children: ReactNode }) {
  return (
    <section className="mb-7">
      <div className="flex items-baseline gap-3 border-b border-base-300 pb-1 mb-1">
        <h2>{title}</h2>
        <span className="muted text-xs">{more}</span>
      </div>
      {children}
    </section>
  )
}

function SequenceLine({ sequence }: { sequence: Shape<'SequenceRow'> }) {
  const { firm } = useSession()
  return (
    <Link
      to={`/sequences/${sequence.id}`}
      className="row-link grid grid-cols-[1fr_auto] items-baseline gap-x-3 py-2 border-b border-base-300/60 px-1"
    >
      <span className="font-semibold">{sequence.name}</span>
      <StateBadge state={sequence.state} more={startsAt(sequence, firm.time_zone)} />
      <span className="muted text-xs col-span-2">
        {sequence.state === 'draft'
          ? plural(sequence.steps, 'letter step')
          : `${sequence.sent} of ${sequence.planned} sent, ${sequence.replied} replied`}
      </span>
      {sequence.start_refused && (
        <span className="text-error text-xs col-span-2">It did not start at its time. {sequence.start_refused}</span>
      )}
    </Link>
  )
}

const HEARD = {
  opened: 'Opened',
  clicked: 'Link clicked',
  replied: 'Replied',
  bounced: 'Bounced',
  unsubscribed: 'Unsubscribed',
  converted: 'Converted',
} as const

/** Letters that nobody knows the fate of; a person says what became of each. */
function Doubts({ letters, total, timeZone }: { letters: Shape<'SentLetter'>[]; total: number; timeZone: string }) {
  const client = useQueryClient()
  const settle = useMutation({
    mutationFn: ({ id, verdict }: { id: number; verdict: 'sent' | 'again' }) =>
      ask(api.POST('/api/deliveries/{id}/settle', { params: { path: { id } }, body: { verdict } })),
    onSuccess: () => client.invalidateQueries(),
  })
  return (
    <Section
      title="In doubt"
      more={
        total > letters.length
          ? `The line broke while ${total} were on the wire. The next come here as these are settled.`
          : 'The line broke while these were on the wire. They are not sent again by themselves.'
      }
    >
      {settle.error && <ErrorNote error={settle.error} />}
      {letters.map((letter) => (
        <div key={letter.id} className="flex items-center gap-3 py-2 border-b border-base-300/60 px-1">
          <Link to={`/people/${letter.person_id}`} className="font-semibold whitespace-nowrap hover:underline">
            {letter.person}
          </Link>
          <span className="muted grow truncate">{letter.subject}</span>
          {letter.heard && (
            <span className="text-xs whitespace-nowrap">
              {HEARD[letter.heard.kind]} {moment(letter.heard.at, timeZone)}
            </span>
          )}
          <button
            type="button"
            className="btn btn-xs btn-plain"
            onClick={() => settle.mutate({ id: letter.id, verdict: 'sent' })}
          >
            It arrived
          </button>
          <button
            type="button"
            className="btn btn-xs btn-plain"
            onClick={() => settle.mutate({ id: letter.id, verdict: 'again' })}
          >
            Send it again
          </button>
        </div>
      ))}
    </Section>
  )
}

/** Mailboxes whose letters failed alike again and again. */
function Resting({ boxes, timeZone }: { boxes: Shape<'Mailbox'>[]; timeZone: string }) {
  const client = useQueryClient()
  const wake = useMutation({
    mutationFn: (id: number) => ask(api.POST('/api/mailboxes/{id}/wake', { params: { path: { id } } })),
    onSuccess: () => client.invalidateQueries(),
  })
  return (
    <Section title="Resting mailboxes" more="Five letters in a row failed alike. The letters wait; nobody is taken out.">
      {wake.error && <ErrorNote error={wake.error} />}
      {boxes.map((box) => (
        <div key={box.id} className="flex items-center gap-3 py-2 border-b border-base-300/60 px-1">
          <span className="grow min-w-0">
            <strong className="font-semibold">{box.address}</strong>
            {box.rests_until && ` rests until ${moment(box.rests_until, timeZone)}`}
            <br />
            <span className="muted text-xs">{box.failing_words}</span>
          </span>
          <button type="button" className="btn btn-xs btn-plain" onClick={() => wake.mutate(box.id)}>
            Try at once
          </button>
        </div>
      ))}
    </Section>
  )
}

/** Who would join by a live rule, and waits because something is missing. */
function WaitingToJoin({ rules }: { rules: Shape<'Today'>['waiting_to_join'] }) {
  return (
    <Section
      title="Waiting to join"
      more="A letter would have a gap, or there is no mailbox. They join as soon as that is mended."
    >
      {rules.map((rule) => (
        <p key={rule.rule_id} className="flex gap-3 py-2 border-b border-base-300/60 px-1 items-baseline">
          <span className="font-semibold w-44 shrink-0">
            <JoinedBy rule={rule.rule_id} part="waiting" count={rule.people} words={rule.words} />
          </span>
          <Link to={`/sequences/${rule.sequence_id}`} className="muted grow truncate">
            {rule.sequence}: {rule.words}
          </Link>
        </p>
      ))}
    </Section>
  )
}

/** What could not be worked on, by its reasons. */
function SetAsideInShort({ total, reasons }: Shape<'Today'>['set_aside']) {
  return (
    <Section title="Set aside" more="Could not be worked on. Everything else goes on.">
      {reasons.map(({ kind, reason, count }) => (
        <Link
          key={`${kind}${reason}`}
          to="/set-aside"
          className="row-link flex gap-3 py-2 border-b border-base-300/60 px-1 items-baseline"
        >
          <span className="font-semibold w-44 shrink-0">
            {count} {kindWords(kind, count)}
          </span>
          <span className="muted grow line-clamp-2">{reason}</span>
        </Link>
      ))}
      <Link to="/set-aside" className="text-primary font-semibold block py-2 px-1">
        {total === 1 ? 'Look at it' : `Look at all ${total}`}
      </Link>
    </Section>
  )
}

/** What I have to do for people. */
function MyTasks() {
  const query = useOpenTasks({ mine: true })
  const total = query.data?.pages[0]?.total ?? 0
  if (total === 0) return query.error ? <ErrorNote error={query.error} /> : null
  return (
    <Section title="To do" more={plural(total, 'task')}>
      <OpenTasks query={query} />
    </Section>
  )
}

/** What needs a person; each line leads to its place. */
export function TodayScreen() {
  const { account, firm } = useSession()
  const now = useNow()
  const create = useCreate()
  const { data, error, refetch } = useQuery({
    queryKey: ['today', 'all'],
    queryFn: () => ask(api.GET('/api/today')),
    refetchInterval: 5000,
  })
  if (error) return <ErrorNote error={error} retry={refetch} />
  if (!data) return <Loading />
  const hour = Number(
    new Intl.DateTimeFormat('en-GB', { hour: 'numeric', hour12: false, timeZone: firm.time_zone }).format(new Date(now)),
  )
  const greeting = hour < 12 ? 'Good morning' : hour < 18 ? 'Good afternoon' : 'Good evening'
  return (
    <>
      <Header
        title={`${greeting}, ${account.name.split(' ')[0]}`}
        aside={<span className="muted">{day(now, firm.time_zone)}</span>}
      />
      <div className="grid grid-cols-[minmax(0,1fr)_360px] gap-10">
        <div>
          {data.resting.length > 0 && <Resting boxes={data.resting} timeZone={firm.time_zone} />}
          {data.set_aside.total > 0 && <SetAsideInShort {...data.set_aside} />}
          {data.waiting_to_join.length > 0 && <WaitingToJoin rules={data.waiting_to_join} />}
          <Section title="New replies" more={data.new_replies_count ? `${data.new_replies_count} to read` : undefined}>
            {data.new_replies.length === 0 && <p className="muted py-3">Nothing new to read.</p>}
            {data.new_replies.map((reply) => (
              <Link
                key={reply.id}
                to={`/replies?open=${reply.id}`}
                className="row-link grid grid-cols-[170px_minmax(0,1fr)_auto] gap-3 py-2.5 border-b border-base-300/60 px-1"
              >
                <span className="truncate">
                  <strong className="font-semibold">{reply.name}</strong>
                  <br />
                  <span className="muted text-xs">{reply.company}</span>
                </span>
                <span className="font-serif text-base leading-5 line-clamp-2">{reply.text}</span>
                <span className="muted text-xs whitespace-nowrap">{moment(reply.received_at, firm.time_zone)}</span>
              </Link>
            ))}
          </Section>
          <MyTasks />
          {data.in_doubt.length > 0 && <Doubts letters={data.in_doubt} total={data.in_doubt_count} timeZone={firm.time_zone} />}
          {data.failures.length > 0 && (
            <Section title="Could not be sent">
              {data.failures.map((letter) => (
                <Link
                  key={letter.id}
                  to={`/people/${letter.person_id}`}
                  className="row-link flex gap-3 py-2 border-b border-base-300/60 px-1"
                >
                  <span className="font-semibold w-44 shrink-0 truncate">{letter.person}</span>
                  <span className="muted grow truncate">{letter.reason}</span>
                </Link>
              ))}
            </Section>
          )}
        </div>
        <div>
          <Section title="Goes out next">
            {data.next ? (
              <p className="py-2">
                <strong className="font-semibold">{moment(data.next.at, firm.time_zone)}</strong>,{' '}
                <NextLetters next={data.next} between="from" className="word min-h-6 inline-flex items-center" />
              </p>
            ) : (
              <p className="muted py-2">Nothing is on its way.</p>
            )}
          </Section>
          <Section title="Under way">
            {data.running.length === 0 && <p className="muted py-2">No sequence is under way.</p>}
            {data.running.map((sequence) => (
              <SequenceLine key={sequence.id} sequence={sequence} />
            ))}
          </Section>
          <Section title="Drafts left open">
            {data.drafts.length === 0 && <p className="muted py-2">No drafts.</p>}
            {data.drafts.map((sequence) => (
              <SequenceLine key={sequence.id} sequence={sequence} />
            ))}
            <button type="button" className="btn btn-sm btn-plain mt-3" onClick={() => create.sequence.mutate({})}>
              New sequence
            </button>
          </Section>
        </div>
      </div>
    </>
  )
}
