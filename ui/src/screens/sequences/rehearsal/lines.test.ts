import { describe, expect, it } from 'vitest'
import { onLines } from './lines'

const word = (at: number, words = 'The table nobody asks for twice') => ({ at, words })

describe('words along a line', () => {
  it('stand beside each other where there is room, and below where there is none', () => {
    expect(onLines([word(0), word(0.5), word(0.55)], 900).map((one) => one.line)).toEqual([0, 0, 1])
  })

  it('never run out at the right', () => {
    expect(onLines([word(1), word(0.9)], 900)).toMatchObject([
      { at: 1, before: true, line: 0 },
      { at: 0.9, before: true, line: 1 },
    ])
    const [narrow] = onLines([word(0.5)], 300)
    expect(narrow).toMatchObject({ before: false })
    expect((narrow?.at ?? 1) * 300 + 31 * 6).toBeLessThanOrEqual(300)
  })

  it('stand somewhere on a page that has no width yet', () => {
    expect(onLines([word(0.2)], 0)).toEqual([{ item: word(0.2), at: 0, line: 0, before: false }])
  })
})
