import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import type { Shape } from '../api/client'
import { plural } from '../app/format'
import { Modal } from './Modal'
import { ErrorNote, Loading } from './States'

/**
 * The people behind a number. Each leads to the record, where it can be mended. A figure that counts letters says so when
 * some had several.
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
  load: () => Promise<Shape<'PeoplePage'>>
  queryKey: unknown[]
  onClose: () => void
}) {
  const { data, error } = useQuery({ queryKey: ['behind', ...queryKey], queryFn: load })
  return (
    <Modal wide title={title} onClose={onClose}>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Loading lines={5} />}
      {data && (
        <>
          <p className="muted mb-2">
            {letters !== undefined && letters > data.total && `${plural(letters, 'letter')} to `}
            {plural(data.total, 'person', 'people')}
            {data.total > data.people.length && `, the ${data.people.length} most recently heard from below`}
          </p>
          <ul>
            {data.people.map((person) => (
              <li key={person.id} className="border-b border-base-300/60">
                <Link
                  to={`/people/${person.id}`}
                  onClick={onClose}
                  className="row-link grid grid-cols-[1fr_1fr_1.3fr] gap-3 py-2 px-1"
                >
                  <span className="font-semibold truncate">{person.name}</span>
                  <span className="muted truncate">{person.company ?? 'no company'}</span>
                  <span className="muted truncate">{person.email ?? 'no address'}</span>
                </Link>
              </li>
            ))}
          </ul>
        </>
      )}
      <div className="mt-4 text-right">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Close
        </button>
      </div>
    </Modal>
  )
}
