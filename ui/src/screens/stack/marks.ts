import type { Shape } from '../../api/client'

type Stack = Shape<'Stack'>
/** Which letters of a stack are shown; `side-2` are those who read the passage of the second condition. */
export type Only = 'all' | 'gaps' | 'personal' | 'lost' | 'unanswered' | 'a' | 'b' | `side-${number}` | `other-${number}`

/** What one can ask for in this stack, with how many there are; only what there is. */
export function onlyOptions(stack: Stack): { only: Only; words: string; short: string; count: number; atMost?: boolean }[] {
  const sides = stack.conditions.flatMap(
    ({ index, words, people }): ReturnType<typeof onlyOptions> => [
      { only: `side-${index}`, words: `◆ ${index + 1}: ${words}`, short: `◆ ${index + 1}`, count: people },
      {
        only: `other-${index}`,
        words: `the others of ◆ ${index + 1}`,
        short: `not ◆ ${index + 1}`,
        count: stack.total - people,
      },
    ],
  )
  const options: ReturnType<typeof onlyOptions> = [
    { only: 'gaps', words: 'With a gap', short: 'with a gap', count: stack.with_gaps, atMost: stack.gaps_at_most },
    { only: 'personal', words: 'With a line of one’s own', short: 'personal', count: stack.personal },
    { only: 'lost', words: 'Whose line has lost its place', short: 'lost lines', count: stack.lost },
    { only: 'unanswered', words: 'Where a service did not answer', short: 'no answer', count: stack.unanswered },
    { only: 'a', words: 'First version', short: 'first version', count: stack.versions.a },
    { only: 'b', words: 'Other version', short: 'other version', count: stack.versions.b },
    ...sides,
  ]
  const all = { only: 'all' as Only, words: 'All letters', short: 'all', count: stack.total }
  return [all, ...options.filter((option) => option.count > 0)]
}
