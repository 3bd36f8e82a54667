import { useQuery } from '@tanstack/react-query'
import { X } from 'lucide-react'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../../api/client'
import { money } from '../../../app/format'
import { ErrorNote, Loading } from '../../../parts/States'
import { History } from '../../person/History'
import { WhyNote } from './WhyNote'

/** A person beside the table, so that one keeps one's place in it. */
export function PersonBeside({ id, audience, onClose }: { id: number; audience: Shape<'Audience'>; onClose: () => void }) {
  const { data: person, error } = useQuery({
    queryKey: ['person', id],
    queryFn: () => ask(api.GET('/api/people/{id}', { params: { path: { id } } })),
  })
  const { data: history } = useQuery({
    queryKey: ['history', id, 'beside'],
    queryFn: () => ask(api.GET('/api/people/{id}/history', { params: { path: { id } } })),
  })
  if (error) return <ErrorNote error={error} />
  if (!person) return <Loading lines={6} />
  const value = (key: string) => (person.values[key] as string | null) ?? ''
  return (
    <aside aria-label={person.name} className="text-[13px]">
      <div className="flex items-start gap-2">
        <h2 className="grow leading-6">
          <Link to={`/people/${id}`} className="hover:underline">
            {person.name}
          </Link>
        </h2>
        <button type="button" className="btn btn-xs btn-ghost" aria-label="Close this record" onClick={onClose}>
          <X className="mark" aria-hidden />
        </button>
      </div>
      <p className="muted mb-2">{[value('person.job_title'), person.company].filter(Boolean).join(', ') || 'no company'}</p>
      <dl className="grid grid-cols-[64px_minmax(0,1fr)] gap-y-0.5 mb-3">
        {(
          [
            ['Address', person.email],
            ['Phone', value('person.phone')],
            ['City', person.city],
            ['Owner', person.owner],
            ['Tags', person.tags.join(', ')],
            ['Deals', person.deals.map((deal) => `${deal.name}, ${deal.stage_words}, ${money(deal.value_pence)}`).join('; ')],
          ] as const
        ).map(([label, words]) => (
          <div key={label} className="contents">
            <dt className="muted">{label}</dt>
            <dd className="[overflow-wrap:anywhere] line-clamp-3" title={words ?? undefined}>
              {words || <span className="muted">nothing</span>}
            </dd>
          </div>
        ))}
      </dl>
      <Link to={`/people/${id}`} className="btn btn-sm btn-plain w-full mb-3">
        Open the record
      </Link>
      <WhyNote id={id} audience={audience} />
      <h3 className="font-serif text-base mt-3 mb-1">Lately</h3>
      {history && <History entries={history.entries.slice(0, 6)} narrow />}
    </aside>
  )
}
