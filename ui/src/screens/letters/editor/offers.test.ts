import { describe, expect, it } from 'vitest'
import { blockOffers, blocksFor } from './offers'
import { NO_WRITING, type Writing } from './writing'

const choosing = { picture: () => undefined, passage: () => undefined }
const keys = (more: Partial<Writing>) => blockOffers({ ...NO_WRITING, ...more }, choosing).map((offer) => offer.key)

describe('blockOffers', () => {
  it('offers a plain letter what somebody could have typed', () => {
    expect(keys({ manner: 'plain' })).toEqual([
      'heading',
      'text',
      'list',
      'numbers',
      'quote',
      'divider',
      'picture',
      'some',
      'passage',
      'signature',
    ])
  })

  it('offers a designed one what needs a frame as well', () => {
    const more = keys({ manner: 'designed' }).filter((key) => !keys({ manner: 'plain' }).includes(key))
    expect(more).toEqual(['button', 'columns', 'links', 'footer'])
  })

  it('puts neither signature nor footer into a passage, and no blocks into a signature', () => {
    expect(keys({ within: 'passage', manner: 'designed' })).not.toEqual(expect.arrayContaining(['signature']))
    expect(keys({ within: 'passage', manner: 'designed' })).not.toEqual(expect.arrayContaining(['footer']))
    expect(keys({ within: 'signature', manner: 'designed' })).toEqual(['text', 'list', 'divider'])
  })
})

describe('blocksFor', () => {
  it('finds them by any part of their name', () => {
    const offers = blockOffers(NO_WRITING, choosing)
    expect(blocksFor('LIST', offers).map((offer) => offer.key)).toEqual(['list', 'numbers'])
    expect(blocksFor('', offers)).toEqual(offers)
    expect(blocksFor('zzz', offers)).toEqual([])
  })
})
