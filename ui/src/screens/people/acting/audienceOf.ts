import type { Shape } from '../../../api/client'

/** People that were chosen as an audience. */
export function audienceOf(people: Shape<'Chosen'>): Shape<'Audience'> {
  if (people.ids) return { people: people.ids }
  return people.audience ?? { condition: people.condition ?? {} }
}
