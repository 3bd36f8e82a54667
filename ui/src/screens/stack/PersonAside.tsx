import { useQuery } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { api, ask } from '../../api/client'
import { shortDate } from '../../app/format'
import { useNow } from '../../app/usePost'

const HAD = ['sent', 'opened', 'clicked', 'replied', 'note']
const VIEWS = [
  { key: 'desk', words: 'Desk' },
  { key: 'phone', words: 'Phone' },
  { key: 'text', words: 'Text' },
] as const

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="border-t border-base-300 pt-2.5 mt-3">
      <h2 className="!font-sans !text-[13px] !font-semibold mb-1">{title}</h2>
      {children}
    </section>
  )
}

const OUT: Record<string, string> = {
  sent: 'Went out',
  skipped: 'Did not go out',
  failed: 'Did not go out',
  set_aside: 'Set aside under Today; was to go out',
}

/** Who the letter is for, what they have had, and when this one goes. */
export function PersonAside({
  personId,
  when,
  mailbox,
  state,
  view,
  onView,
  onWrite,
}: {
  personId: number
  when?: string
  mailbox?: string
  state: string
  view: string
  onView: (view: 'desk' | 'phone' | 'text') => void
  onWrite: () => void
}) {
  const now = useNow()
  const { data: person } = useQuery({
    queryKey: ['person', personId],
    queryFn: () => ask(api.GET('/api/people/{id}', { params: { path: { id: personId } } })),
  })
  const { data: history } = useQuery({
    queryKey: ['history', personId, 'first'],
    queryFn: () => ask(api.GET('/api/people/{id}/history', { params: { path: { id: personId } } })),
  })
  const had = history?.entries.filter((entry) => HAD.includes(entry.kind) && !entry.by_machine).slice(0, 5) ?? []
  return (
    <aside aria-label="The person" className="text-[13px]">
      <Link to={`/people/${personId}`} className="font-serif text-lg hover:underline">
        {person?.name}
      </Link>
      <p className="muted leading-5">
        {[person?.values['person.job_title'] as string | null, person?.company].filter(Boolean).join(', ')}
        <br />
        {[person?.city, person && `${person.standing.replace('_', ' ')} since ${shortDate(person.created_at ?? now, now)}`]
          .filter(Boolean)
          .join(' · ')}
      </p>
      <Part title="What they have had">
        {had.length === 0 && <p className="muted">Nothing yet.</p>}
        {had.map((entry) => (
          <p key={entry.id} className="muted leading-5">
            {shortDate(entry.at, now)} · {entry.words}
          </p>
        ))}
      </Part>
      <Part title={OUT[state] ?? 'Goes out'}>
        <p className="muted leading-5">
          {when ? `${when} their time` : 'no time yet'}
          <br />
          {mailbox ? `from ${mailbox}` : 'from no mailbox yet'}
        </p>
      </Part>
      <Part title="Shown as">
        <div className="flex gap-1.5">
          {VIEWS.map((one) => (
            <button
              key={one.key}
              type="button"
              aria-pressed={view === one.key}
              onClick={() => onView(one.key)}
              className={`btn btn-xs btn-plain ${view === one.key ? '!border-primary' : ''}`}
            >
              {one.words}
            </button>
          ))}
        </div>
      </Part>
      {['planned', 'due', 'ahead'].includes(state) && (
        <button type="button" className="btn btn-sm btn-plain mt-4" onClick={onWrite}>
          Write to this one
        </button>
      )}
    </aside>
  )
}
