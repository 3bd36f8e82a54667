import { describe, expect, it } from 'vitest'
import { answered, type Wanted, withAnswer } from './answers'

const list = (here: number | null): Wanted => ({ kind: 'lists', id: '5', words: 'Open days', here, open: false })

describe('what stands for something of a file', () => {
  it('is what plainly does, until somebody says otherwise', () => {
    expect(answered({}, list(3))).toBe(3)
    expect(answered(withAnswer({}, list(3), 8), list(3))).toBe(8)
    expect(answered({}, list(null))).toBeNull()
  })

  it('may be left open on purpose, and keeps the answers beside it', () => {
    const answers = withAnswer(withAnswer({ name: 'Ours' }, list(3), null), { ...list(null), id: '6' }, 2)
    expect(answers).toEqual({ name: 'Ours', lists: { 5: null, 6: 2 } })
    expect(answered(answers, list(3))).toBeNull()
  })
})
