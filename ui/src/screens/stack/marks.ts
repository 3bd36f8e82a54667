import type { Shape } from '../../api/client'

type Stack = Shape<'Stack'>
type Row = Stack['rows'][number]
/** Which letters of a stack are shown; `side-2` are those who read the passage of the second condition. */
export type Only = 'all' | 'gaps' | 'personal' | 'lost' | 'unanswered' | 'a' | 'b' | `side-${number}` | `other-${number}`

/** Whether a letter is among those asked for. */
export function isShown(row: Row, only: Only): boolean {
  switch (only) {
    case 'all':
      return true
    case 'gaps':
      return row.gaps.length > 0
    case 'personal':
      return row.personal
    case 'lost':
      return row.line_lost
    case 'unanswered':
      return row.unanswered
    case 'a':
    case 'b':
      return row.version === only
  }
  const index = Number(only.split('-')[1])
  return row.sides.includes(index) === only.startsWith('side')
}

/** What one can ask for in this stack, with how many there are; only what there is. */
export function onlyOptions(stack: Stack): { only: Only; words: string; short: string; count: number }[] {
  const count = (only: Only) => stack.rows.filter((row) => isShown(row, only)).length
  const options: { only: Only; words: string; short: string }[] = [
    { only: 'gaps', words: 'With a gap', short: 'with a gap' },
    { only: 'personal', words: 'With a line of one’s own', short: 'personal' },
    { only: 'lost', words: 'Whose line has lost its place', short: 'lost lines' },
    { only: 'unanswered', words: 'Where a service did not answer', short: 'no answer' },
    { only: 'a', words: 'First version', short: 'first version' },
    { only: 'b', words: 'Other version', short: 'other version' },
    ...stack.conditions.flatMap((condition): { only: Only; words: string; short: string }[] => [
      {
        only: `side-${condition.index}`,
        words: `◆ ${condition.index + 1}: ${condition.words}`,
        short: `◆ ${condition.index + 1}`,
      },
      {
        only: `other-${condition.index}`,
        words: `the others of ◆ ${condition.index + 1}`,
        short: `not ◆ ${condition.index + 1}`,
      },
    ]),
  ]
  return [
    { only: 'all' as Only, words: 'All letters', short: 'all', count: stack.total },
    ...options.map((option) => ({ ...option, count: count(option.only) })).filter((option) => option.count > 0),
  ]
}

/** The next letter with a gap after a place, round and round; -1 when there is none. */
export function nextGap(rows: Row[], at: number): number {
  const next = rows.findIndex((row, i) => i > at && row.gaps.length > 0)
  return next === -1 ? rows.findIndex((row) => row.gaps.length > 0) : next
}
