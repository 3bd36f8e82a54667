import { describe, expect, it } from 'vitest'
import { byReason, canBeLeft, kindWords } from './kinds'

const thing = (id: number, kind: 'letter' | 'mail', reason: string) => ({
  id,
  kind,
  reason,
  tries: 1,
  first_at: '2026-05-12T09:00:00Z',
  last_at: '2026-05-12T09:00:00Z',
  again: false,
})

describe('what was set aside', () => {
  it('is brought together by its reason, in the order in which it comes', () => {
    const groups = byReason([thing(1, 'letter', 'refused'), thing(2, 'mail', 'refused'), thing(3, 'letter', 'refused')])

    expect(groups.map((group) => [group.kind, group.things.map((one) => one.id)])).toEqual([
      ['letter', [1, 3]],
      ['mail', [2]],
    ])
  })

  it('is called what people call it', () => {
    expect([kindWords('letter', 1), kindWords('mail', 3), kindWords('owl', 1)]).toEqual(['letter', 'pieces of mail', 'owl'])
  })

  it('can be left, unless it is half done', () => {
    expect(['letter', 'mail', 'reaction', 'act', 'file'].filter((kind) => canBeLeft(kind as 'letter'))).toEqual([
      'letter',
      'mail',
      'reaction',
    ])
  })
})
