import { useContext } from 'react'
import { Link } from 'react-router'
import type { Shape } from '../../../api/client'
import { number, plural } from '../../../app/format'
import { ListBehind } from '../../../parts/ListBehind'
import { ActsContext } from './acts'

/** A page of people; the first without a cursor. */
export type LoadPeople = (cursor?: string) => Promise<Shape<'PeoplePage'>>

/**
 * The people behind a number. Each leads to the record, where it can be mended; all of them can be written to and worked on. A
 * figure that counts letters says so when some had several.
 */
export function PeopleBehind({
  title,
  letters,
  load,
  queryKey,
  onClose,
}: {
  title: string
  letters?: number
  load: LoadPeople
  queryKey: unknown[]
  onClose: () => void
}) {
  const Acts = useContext(ActsContext)
  return (
    <ListBehind title={title} load={load} queryKey={queryKey} onClose={onClose}>
      {(pages) => {
        const first = pages[0]
        const total = first?.total ?? 0
        const people = pages.flatMap((page) => page.people)
        return (
          <>
            <p className="muted mb-2">
              {letters !== undefined && letters > total && `${plural(letters, 'letter')} to `}
              {plural(total, 'person', 'people')}
              {total > people.length && `, ${number(people.length)} of them below so far`}
            </p>
            {Acts && first?.chosen && (first.chosen_count ?? 0) > 0 && (
              <Acts title={title} people={first.chosen} count={first.chosen_count ?? 0} total={total} onLeave={onClose} />
            )}
            <ul>
              {people.map((person) => (
                <li key={person.id} className="border-b border-base-300/60">
                  <Link
                    to={`/people/${person.id}`}
                    onClick={onClose}
                    className="row-link grid grid-cols-[1fr_1fr_1.3fr] gap-3 py-2 px-1"
                  >
                    <span className="font-semibold truncate">{person.name}</span>
                    <span className="muted truncate">{person.binned ? 'in the bin' : (person.company ?? 'no company')}</span>
                    <span className="muted truncate">{person.email ?? 'no address'}</span>
                  </Link>
                </li>
              ))}
            </ul>
          </>
        )
      }}
    </ListBehind>
  )
}
