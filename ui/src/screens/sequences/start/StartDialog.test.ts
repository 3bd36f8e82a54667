import { describe, expect, it } from 'vitest'
import { whoLeaves } from './StartDialog'

describe('what a plan does when somebody answers', () => {
  it('says that an answer ends it, where it does', () => {
    expect(whoLeaves(['replied', 'converted'])).toBe('Whoever replies, unsubscribes or cannot be reached gets nothing more.')
  })

  it('says that it goes on, where it does', () => {
    expect(whoLeaves(['converted'])).toMatch(/^Whoever replies goes on getting the letters after it: .* gets nothing more\.$/)
  })
})
