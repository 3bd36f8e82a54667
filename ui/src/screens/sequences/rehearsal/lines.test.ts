import { describe, expect, it } from 'vitest'
import { onLines } from './lines'

const word = (at: number, words = 'The table nobody asks for twice') => ({ at, words })

describe('words along a line', () => {
  it('stand beside each other where there is room, and below where there is none', () => {
    expect(onLines([word(0), word(0.5), word(0.55)], 900).map((one) => one.line)).toEqual([0, 0, 1])
  })

  it('never run out at the right', () => {
    const [last] = onLines([word(1)], 900)
    expect((last?.at ?? 1) * 900 + 31 * 6).toBeLessThanOrEqual(900)
  })

  it('stand somewhere on a page that has no width yet', () => {
    expect(onLines([word(0.2)], 0)).toEqual([{ item: word(0.2), at: 0, line: 0 }])
  })
})
