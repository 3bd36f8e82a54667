import type { Shape } from '../../../api/client'
import { fromCondition, type Group } from '../asking/conditions'
import type { View } from './usePeople'

/** What of the table of people stands in the address of the page, so that it can be sent to a colleague and gone back to. */
export type Shown = {
  condition: Shape<'Condition'>
  words: string
  sort: View['sort']
  open: number | null
}

/** Without what goes without saying. */
export function writeShown({ condition, words, sort, open }: Shown): Record<string, string> {
  const said = (condition.all?.length ?? condition.any?.length ?? 1) > 0
  return {
    ...(said ? { who: JSON.stringify(condition) } : {}),
    ...(words ? { q: words } : {}),
    ...(sort ? { sort: `${sort.descending ? '-' : ''}${sort.field}` } : {}),
    ...(open === null ? {} : { open: String(open) }),
  }
}

/** What an address says; what cannot be read is left out. */
export function readShown(params: URLSearchParams): {
  sentence: Group | null
  words: string
  sort: View['sort']
  open: number | null
} {
  const sort = params.get('sort')
  const open = Number(params.get('open'))
  return {
    sentence: sentence(params.get('who')),
    words: params.get('q') ?? '',
    sort: sort ? { field: sort.replace(/^-/, ''), descending: sort.startsWith('-') } : null,
    open: Number.isInteger(open) && open > 0 ? open : null,
  }
}

function sentence(text: string | null): Group | null {
  if (!text) return null
  try {
    const condition: unknown = JSON.parse(text)
    return typeof condition === 'object' && condition !== null ? fromCondition(condition as Shape<'Condition'>) : null
  } catch {
    return null
  }
}
