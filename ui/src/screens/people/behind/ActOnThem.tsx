import { useState } from 'react'
import { useNavigate } from 'react-router'
import { plural } from '../../../app/format'
import { useCatalogue } from '../../../app/useCatalogue'
import { useCreate } from '../../../app/useCreate'
import { ErrorNote } from '../../../parts/States'
import { audienceOf } from '../acting/audienceOf'
import { DoMany } from '../acting/DoMany'
import { KeepList } from '../acting/KeepList'
import { FIRST_VIEW } from '../table/usePeople'
import type { Acting } from './acts'

/** What can be done with everybody behind a number, as with people chosen in the table; what has no condition is kept as a list. */
export function ActOnThem({ title, people, count, total, onLeave }: Acting) {
  const navigate = useNavigate()
  const create = useCreate()
  const { data: catalogue } = useCatalogue()
  const [keeping, setKeeping] = useState(false)
  if (!people || !catalogue) return null
  const { condition, ids } = people
  return (
    <>
      <div className="flex gap-2 mb-3">
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={create.letter.isPending}
          onClick={() => create.letter.mutate({ audience: audienceOf(people) })}
        >
          Write to {count === 1 ? 'them' : `these ${count}`}…
        </button>
        <DoMany people={people} count={count} view={FIRST_VIEW} catalogue={catalogue} onDone={onLeave} />
        <button type="button" className="btn btn-sm btn-plain" onClick={() => setKeeping(true)}>
          Keep as a list…
        </button>
        <button
          type="button"
          className="btn btn-sm btn-plain"
          onClick={() => navigate('/people', { state: condition ? { condition } : { ids, title } })}
        >
          Open in People
        </button>
      </div>
      {count < total && <p className="muted text-xs mb-2">All but {plural(total - count, 'record')} in the bin.</p>}
      {create.letter.error && <ErrorNote error={create.letter.error} />}
      {keeping && (
        <KeepList
          people={people}
          count={count}
          madeFrom={title}
          onClose={() => setKeeping(false)}
          onKept={() => setKeeping(false)}
        />
      )}
    </>
  )
}
