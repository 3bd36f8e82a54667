import type { ReactNode } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { number, plural } from '../../../app/format'
import { OpensPeople } from './OpensPeople'

/** How many records fit a condition, which opens them; bare: without the word for them, or with words of one's own. */
export function PeopleCount({
  title,
  count,
  condition,
  bare = false,
  children,
}: {
  title: string
  count: number
  condition: Shape<'Condition'>
  bare?: boolean
  children?: ReactNode
}) {
  return (
    <OpensPeople
      title={title}
      count={count}
      className={bare || children ? undefined : 'word min-h-6'}
      queryKey={['count', condition]}
      load={(cursor) =>
        ask(api.POST('/api/people/search', { body: { condition, limit: 60, offset: Number(cursor ?? 0), same: !cursor } }))
      }
    >
      {children ?? (bare ? number(count) : plural(count, 'record'))}
    </OpensPeople>
  )
}
