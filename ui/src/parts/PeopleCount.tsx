import { api, ask, type Shape } from '../api/client'
import { number, plural } from '../app/format'
import { OpensPeople } from './OpensPeople'

/** How many records fit a condition, which opens them; bare: without the word for them. */
export function PeopleCount({
  title,
  count,
  condition,
  bare = false,
}: {
  title: string
  count: number
  condition: Shape<'Condition'>
  bare?: boolean
}) {
  return (
    <OpensPeople
      title={title}
      count={count}
      className={bare ? undefined : 'word min-h-6'}
      queryKey={['count', condition]}
      load={(cursor) => ask(api.POST('/api/people/search', { body: { condition, limit: 60, offset: Number(cursor ?? 0) } }))}
    >
      {bare ? number(count) : plural(count, 'record')}
    </OpensPeople>
  )
}
