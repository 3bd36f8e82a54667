import { describe, expect, it } from 'vitest'
import { onlyOptions } from './marks'

const stack = {
  total: 4,
  with_gaps: 2,
  gaps_at_most: true,
  personal: 1,
  lost: 0,
  unanswered: 0,
  versions: { a: 0, b: 1 },
  shown: 4,
  from: 0,
  rows: [],
  conditions: [{ index: 0, words: 'everyone in York', people: 1 }],
  step: { id: 1, position: 1, of: 1 },
  sequence: { id: 1, name: 'S' },
}

describe('which letters are shown', () => {
  it('offers only what there is, with how many', () => {
    expect(onlyOptions(stack).map((option) => [option.only, option.count, Boolean(option.atMost)])).toEqual([
      ['all', 4, false],
      ['gaps', 2, true],
      ['personal', 1, false],
      ['b', 1, false],
      ['side-0', 1, false],
      ['other-0', 3, false],
    ])
  })
})
