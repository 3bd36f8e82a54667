import { useState } from 'react'
import { api, ask, type Shape } from '../api/client'
import { plural } from '../app/format'
import { PeopleBehind } from './PeopleList'

/** A number of people that opens who they are. */
export function PeopleCount({ title, count, condition }: { title: string; count: number; condition: Shape<'Condition'> }) {
  const [open, setOpen] = useState(false)
  return (
    <>
      <button type="button" className="word min-h-6" disabled={count === 0} onClick={() => setOpen(true)}>
        {plural(count, 'record')}
      </button>
      {open && (
        <PeopleBehind
          title={title}
          queryKey={['count', condition]}
          load={() => ask(api.POST('/api/people/search', { body: { condition, limit: 100 } }))}
          onClose={() => setOpen(false)}
        />
      )}
    </>
  )
}
