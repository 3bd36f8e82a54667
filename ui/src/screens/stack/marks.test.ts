import { describe, expect, it } from 'vitest'
import { isShown, nextGap, onlyOptions } from './marks'

const row = (person_id: number, more: object = {}) => ({
  person_id,
  name: `P${person_id}`,
  gaps: [],
  personal: false,
  line_lost: false,
  sides: [],
  unanswered: false,
  state: 'planned',
  ...more,
})
const gap = { gaps: [{ field: 'person.city', label: 'City' }] }
const rows = [row(1, gap), row(2, { personal: true, sides: [0] }), row(3, { version: 'b' as const }), row(4, gap)]
const stack = {
  total: 4,
  with_gaps: 2,
  personal: 1,
  lost: 0,
  unanswered: 0,
  rows,
  conditions: [{ index: 0, words: 'everyone in York', people: 1 }],
  step: { id: 1, position: 1, of: 1 },
  sequence: { id: 1, name: 'S' },
}

describe('which letters are shown', () => {
  it('offers only what there is, with how many', () => {
    expect(onlyOptions(stack).map((option) => [option.only, option.count])).toEqual([
      ['all', 4],
      ['gaps', 2],
      ['personal', 1],
      ['b', 1],
      ['side-0', 1],
      ['other-0', 3],
    ])
  })

  it('tells the sides of a passage apart', () => {
    expect(rows.filter((one) => isShown(one, 'side-0')).map((one) => one.person_id)).toEqual([2])
    expect(rows.filter((one) => isShown(one, 'other-0')).map((one) => one.person_id)).toEqual([1, 3, 4])
  })
})

describe('nextGap', () => {
  it('goes round and round, and knows when there is none', () => {
    expect(nextGap(rows, 0)).toBe(3)
    expect(nextGap(rows, 3)).toBe(0)
    expect(nextGap([row(1)], 0)).toBe(-1)
  })
})
