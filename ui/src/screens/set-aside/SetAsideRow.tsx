import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { moment, plural } from '../../app/format'
import { ErrorNote, Loading } from '../../parts/States'
import { MendGap } from '../stack/MendGap'
import { canBeLeft, kindWords } from './kinds'

/** What it is, as far as it can be shown, and what went wrong for whoever mends the cause. */
function Whole({ id }: { id: number }) {
  const { data, error } = useQuery({
    queryKey: ['set-aside', id],
    queryFn: () => ask(api.GET('/api/set-aside/{id}', { params: { path: { id } } })),
  })
  if (error) return <ErrorNote error={error} />
  if (!data) return <Loading lines={3} />
  return (
    <div className="mb-3">
      {data.source && (
        <>
          <p className="field-label">How it begins</p>
          <pre className="bg-[var(--sheet)] border border-base-300 p-3 text-xs max-h-72 overflow-auto whitespace-pre-wrap break-all">
            {data.source}
          </pre>
        </>
      )}
      <p className="field-label mt-2">For whoever looks after the program</p>
      <pre className="muted text-xs whitespace-pre-wrap break-all">{data.detail ?? data.reason}</pre>
    </div>
  )
}

/** One thing that was set aside. */
export function SetAsideRow({
  thing,
  timeZone,
  onAgain,
  onLeave,
}: {
  thing: Shape<'SetAside'>
  timeZone: string
  onAgain: () => void
  onLeave: () => void
}) {
  const [open, setOpen] = useState(false)
  // The place of the gap that is being filled; those behind it follow.
  const [filling, setFilling] = useState<number | null>(null)
  const { gap, person } = thing
  const field = filling === null ? undefined : gap?.fields[filling]
  return (
    <div className="border-b border-base-300/60 py-2 px-1">
      <div className="flex items-baseline gap-3">
        <span className="w-52 shrink-0 truncate">
          {thing.person ? (
            <Link to={`/people/${thing.person.id}`} className="font-semibold hover:underline">
              {thing.person.name}
            </Link>
          ) : (
            <span className="font-semibold">{kindWords(thing.kind, 1)}</span>
          )}
        </span>
        <span className="grow truncate">
          {thing.about}
          {thing.letter && `“${thing.letter}”`}
          {thing.sequence && (
            <>
              {' in '}
              <Link to={`/sequences/${thing.sequence.id}`} className="hover:underline">
                {thing.sequence.name}
              </Link>
            </>
          )}
        </span>
        <span className="muted text-xs whitespace-nowrap">
          {moment(thing.last_at, timeZone)} · {plural(thing.tries, 'try', 'tries')}
        </span>
        <button type="button" className="btn btn-xs btn-plain" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'Shut' : 'Look'}
        </button>
        {gap && person && (
          <button type="button" className="btn btn-xs btn-primary" onClick={() => setFilling(0)}>
            Fill
          </button>
        )}
        {thing.again ? (
          <span className="muted text-xs">is tried again…</span>
        ) : (
          <>
            <button type="button" className="btn btn-xs btn-plain" onClick={onAgain}>
              Try again
            </button>
            {canBeLeft(thing.kind) && (
              <button type="button" className="btn btn-xs btn-plain" onClick={onLeave}>
                {thing.kind === 'letter' ? 'Go on without' : 'Leave it'}
              </button>
            )}
          </>
        )}
      </div>
      {field && gap && person && (
        <div className="mt-2">
          <MendGap
            key={field}
            stepId={gap.step_id}
            personId={person.id}
            field={field}
            onClose={() => setFilling(null)}
            onDone={() => setFilling((place) => (place ?? 0) + 1)}
          />
        </div>
      )}
      {open && <Whole id={thing.id} />}
    </div>
  )
}
