import { describe, expect, it } from 'vitest'
import { wayOf } from './Leaves'
import { oneLetter } from './oneLetter'
import { span } from './SendingLine'

const step = (changed: object) => ({ counted: 'joining' as const, amount: 0, from_minute: 0, to_minute: 1440, ...changed })

describe('wayOf', () => {
  it('tells the ways to leave from what only a plan says', () => {
    expect(wayOf(step({}))).toBe('now')
    expect(wayOf(step({ from_minute: 540, to_minute: 1020 }))).toBe('hours')
    expect(wayOf(step({ counted: 'date', from_minute: 540, to_minute: 540 }))).toBe('time')
    expect(wayOf(step({ amount: 3 }))).toBe('other')
    expect(wayOf(step({ counted: 'field' }))).toBe('other')
  })
})

describe('oneLetter', () => {
  const letter = { id: 4, kind: 'letter', letter_id: 9 }
  const of = (...steps: object[]) => oneLetter({ one_letter: true, steps } as unknown as Parameters<typeof oneLetter>[0])

  it('is the letter of a sequence that is nothing else, also while it is being changed', () => {
    expect(of(letter)?.letter_id).toBe(9)
    expect([of(), of(letter, letter), of({ ...letter, letter_id: null })]).toEqual([null, null, null])
  })
})

describe('span', () => {
  it('names the day where it is not today', () => {
    const now = '2026-05-12T15:00:00Z'
    const from = (first: string, last: string) => span(first, last, now, 'Europe/London')
    expect(from('2026-05-12T15:41:00Z', '2026-05-12T16:34:00Z')).toBe('the first at 16:41, the last at 17:34')
    expect(from('2026-05-12T15:41:00Z', '2026-05-18T08:00:00Z')).toBe('the first at 16:41, the last Mon 18 May, 9:00')
    expect(from('2026-05-12T15:41:00Z', '2026-05-12T15:41:00Z')).toBe('at 16:41')
  })
})
