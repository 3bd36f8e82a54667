import { useQuery } from '@tanstack/react-query'
import { X } from 'lucide-react'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../../api/client'
import { moment } from '../../../app/format'
import { useSession } from '../../../app/session'
import { ErrorNote, Loading } from '../../../parts/States'
import { MemberActs } from './MemberActs'
import { where } from './where'

type Stop = Shape<'Stop'>
const DOES: Partial<Record<NonNullable<Stop['what']>, string>> = {
  skip: 'passes by',
  take: 'goes on',
  finish: 'is through',
  leave: 'leaves',
}

/** One member's way: what lies behind, and what lies ahead if nothing happens, each with why then. */
export function MemberBeside({
  sequence,
  member,
  onClose,
}: {
  sequence: Shape<'Sequence'>
  member: Shape<'Member'>
  onClose: () => void
}) {
  const { firm } = useSession()
  const { data, error } = useQuery({
    queryKey: ['members', sequence.id, 'way', member.id],
    queryFn: () => ask(api.GET('/api/members/{id}/way', { params: { path: { id: member.id } } })),
  })
  return (
    <aside aria-label={`The way of ${member.name}`} className="border-l border-base-300 pl-4 text-[13px]">
      <div className="flex justify-between gap-2">
        <Link to={`/people/${member.person_id}`} className="font-serif text-lg hover:underline">
          {member.name}
        </Link>
        <button type="button" className="muted" aria-label="Close" onClick={onClose}>
          <X className="mark" aria-hidden />
        </button>
      </div>
      <p className="muted mb-2">{where(member)}</p>
      <div className="mb-3">
        <MemberActs sequence={sequence} member={member} />
      </div>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Loading lines={5} />}
      {data && data.ahead.length > 0 && (
        <section>
          <h3 className="!text-[13px] font-semibold">Ahead, if nothing happens</h3>
          <ol className="mt-1 mb-3">
            {data.ahead.map((stop, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a way may come to one step twice
              <li key={i} className="border-l-2 border-primary/40 pl-2.5 pb-2">
                <StopWords stop={stop} zone={data.zone} />
              </li>
            ))}
          </ol>
        </section>
      )}
      {data && (
        <section>
          <h3 className="!text-[13px] font-semibold">So far</h3>
          <ol className="mt-1">
            {data.past.toReversed().map((entry) => (
              <li key={entry.id} className="border-l-2 border-base-300 pl-2.5 pb-1.5">
                {entry.words}
                <span className="block muted text-xs">
                  {moment(entry.at, firm.time_zone)}
                  {entry.detail && ` · ${entry.detail}`}
                </span>
              </li>
            ))}
          </ol>
        </section>
      )}
    </aside>
  )
}

function StopWords({ stop, zone }: { stop: Stop; zone: string }) {
  const does = stop.what && DOES[stop.what]
  return (
    <>
      {stop.headline}
      {does && <span className="muted"> {stop.headline ? `· ${does}` : does}</span>}
      {stop.at && stop.what !== 'finish' && <span className="block text-xs">{moment(stop.at, zone)} their time</span>}
      {stop.why && (
        <details className="text-xs">
          <summary className="cursor-pointer muted underline decoration-dotted">Why then?</summary>
          {stop.why}
        </details>
      )}
    </>
  )
}
