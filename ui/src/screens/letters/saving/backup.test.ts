import { describe, expect, it } from 'vitest'
import { dropBackup, keepBackup, readBackup } from './backup'

function store(limit = Number.POSITIVE_INFINITY): Storage {
  const kept = new Map<string, string>()
  return {
    get length() {
      return kept.size
    },
    key: () => null,
    clear: () => kept.clear(),
    getItem: (name) => kept.get(name) ?? null,
    setItem: (name, value) => {
      if (value.length > limit) throw new DOMException('full', 'QuotaExceededError')
      kept.set(name, value)
    },
    removeItem: (name) => void kept.delete(name),
  }
}

describe('the second copy of what is typed', () => {
  it('is there until the server has it', () => {
    const here = store()
    keepBackup('letter', 3, 7, { name: 'A word' }, here)
    expect(readBackup('letter', 3, here)).toEqual({ version: 7, draft: { name: 'A word' } })
    expect(readBackup('passage', 3, here)).toBeNull()
    dropBackup('letter', 3, here)
    expect(readBackup('letter', 3, here)).toBeNull()
  })

  it('is never in the way when the store is full or holds something else', () => {
    const full = store(10)
    expect(() => keepBackup('letter', 3, 7, { name: 'A long word' }, full)).not.toThrow()
    const odd = store()
    odd.setItem('nimble.letter.3', '{oops')
    expect(readBackup('letter', 3, odd)).toBeNull()
    odd.setItem('nimble.letter.3', '7')
    expect(readBackup('letter', 3, odd)).toBeNull()
  })
})
