import { describe, expect, it } from 'vitest'
import type { Shape } from '../../../api/client'
import { beside, nextWorkday, startWords, whoLeaves } from './StartDialog'

describe('what a plan does when somebody answers', () => {
  it('says that an answer ends it, where it does', () => {
    expect(whoLeaves(['replied', 'converted'])).toBe('Whoever replies, unsubscribes or cannot be reached gets nothing more.')
  })

  it('says that it goes on, where it does', () => {
    expect(whoLeaves(['converted'])).toMatch(/^Whoever replies goes on getting the letters after it: .* gets nothing more\.$/)
  })
})

describe('the button that starts it', () => {
  it('counts the letters that go, not those that wait for their gap', () => {
    expect(startWords({ letters: 30, waiting: 0 })).toBe('Start 30 letters now')
    expect(startWords({ letters: 30, waiting: 29 })).toBe('Start the other 1 letter now')
    expect(startWords({ letters: 0, waiting: 0 })).toBe('Start it now')
  })
})

describe('what a plan does besides its letters', () => {
  const step = (kind: string, more: object = {}) => ({ kind, headline: 'H', ...more }) as unknown as Shape<'Step'>

  it('says nothing of letters alone', () => expect(beside([step('letter')])).toEqual([]))

  it('says what people decide, and what colleagues and the plan do by themselves', () => {
    const fork = step('fork', { lanes: [{ steps: [step('letter'), step('task', { words: 'Ring them' })] }, { steps: [] }] })
    const told = beside([step('letter', { look_first: true }), fork, step('change', { headline: 'Tag them press' })])
    expect(told).toEqual([
      'What people do decides which of 2 lanes they go: the numbers are those for whoever does nothing, ' +
        'and 1 letter of the plan may come to others instead.',
      '1 step is a task for colleagues: Ring them.',
      'It changes records by itself: Tag them press.',
      '“H”: each waits until somebody has looked at it.',
    ])
  })
})

describe('when it starts unless one says otherwise', () => {
  it('is the next working day by the clock of the firm', () => {
    expect(nextWorkday('2026-05-12T15:40:00Z', 'Europe/London')).toBe('2026-05-13')
    expect(nextWorkday('2026-05-15T15:40:00Z', 'Europe/London')).toBe('2026-05-18')
    // Friday evening in London is Saturday there already.
    expect(nextWorkday('2026-05-15T22:00:00Z', 'Asia/Tokyo')).toBe('2026-05-18')
    expect(nextWorkday('2026-05-14T22:00:00Z', 'Asia/Tokyo')).toBe('2026-05-18')
  })
})
