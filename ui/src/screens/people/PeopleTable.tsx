import { useEffect, useRef } from 'react'
import { useNavigate } from 'react-router'
import type { Shape } from '../../api/client'
import { shortDate } from '../../app/format'
import { useNow } from '../../app/usePost'

/** People as rows; the next page comes when its end is seen. */
export function PeopleTable({
  people,
  chosen,
  onChoose,
  onEnd,
}: {
  people: Shape<'PersonRow'>[]
  chosen: Set<number>
  onChoose: (chosen: Set<number>) => void
  onEnd: () => void
}) {
  const navigate = useNavigate()
  const now = useNow()
  const end = useRef<HTMLTableRowElement>(null)
  useEffect(() => {
    const node = end.current
    if (!node) return
    const watch = new IntersectionObserver((entries) => entries.some((entry) => entry.isIntersecting) && onEnd(), {
      rootMargin: '300px',
    })
    watch.observe(node)
    return () => watch.disconnect()
  }, [onEnd])
  const toggle = (id: number) => {
    const next = new Set(chosen)
    next.has(id) ? next.delete(id) : next.add(id)
    onChoose(next)
  }
  const allShown = people.length > 0 && people.every((person) => chosen.has(person.id))
  return (
    <table className="plain w-full">
      <thead>
        <tr>
          <th className="w-8">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              aria-label="Choose everyone shown"
              checked={allShown}
              onChange={() => onChoose(allShown ? new Set() : new Set(people.map((person) => person.id)))}
            />
          </th>
          <th>Name</th>
          <th>Company</th>
          <th>City</th>
          <th>Owner</th>
          <th>Last heard from</th>
          <th>Now in</th>
        </tr>
      </thead>
      <tbody>
        {people.map((person) => (
          <tr key={person.id} className="row-link cursor-pointer" onClick={() => navigate(`/people/${person.id}`)}>
            <td onClick={(event) => event.stopPropagation()} onKeyDown={(event) => event.stopPropagation()}>
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                aria-label={`Choose ${person.name}`}
                checked={chosen.has(person.id)}
                onChange={() => toggle(person.id)}
              />
            </td>
            <td className="font-semibold">
              <a
                href={`/people/${person.id}`}
                onClick={(event) => {
                  event.preventDefault()
                  event.stopPropagation()
                  navigate(`/people/${person.id}`)
                }}
              >
                {person.name}
              </a>
              {!person.may_write && <span className="text-error font-normal text-xs"> · not to be written to</span>}
            </td>
            <td>{person.company ?? <span className="muted">none</span>}</td>
            <td>{person.city ?? <span className="muted">none</span>}</td>
            <td className="whitespace-nowrap">
              {person.owner ? person.owner.replace(/^(\S+) (\S).*/, '$1 $2.') : <span className="muted">nobody</span>}
            </td>
            <td className="whitespace-nowrap">
              {person.last_activity ? (
                `${shortDate(person.last_activity.at, now)}, ${person.last_activity.kind}`
              ) : (
                <span className="muted">never</span>
              )}
            </td>
            <td className="truncate max-w-36">{person.now_in ?? <span className="muted">—</span>}</td>
          </tr>
        ))}
        <tr ref={end}>
          <td colSpan={7} className="!border-0 !p-0" />
        </tr>
      </tbody>
    </table>
  )
}
