import { describe, expect, it } from 'vitest'
import { cut } from './InboxLines'

describe('cut', () => {
  it('leaves short lines alone and cuts long ones with three dots', () => {
    expect(cut('A word', 6)).toBe('A word')
    expect(cut('A word about', 8)).toBe('A word…')
    expect(cut('A word', 0)).toBe('…')
  })
})
