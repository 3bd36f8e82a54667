import { describe, expect, it } from 'vitest'
import { EVERYBODY, toCondition } from '../asking/conditions'
import { readShown, writeShown } from './address'

const YORK = { all: [{ field: 'person.city', is: 'one_of', value: ['York'] }] }

describe('the address of the table of people', () => {
  it('says nothing for everybody', () => {
    expect(writeShown({ condition: toCondition(EVERYBODY), words: '', sort: null, open: null })).toEqual({})
  })

  it('comes back as it was', () => {
    const shown = { condition: YORK, words: 'ana', sort: { field: 'person.city', descending: true }, open: 4 }
    const read = readShown(new URLSearchParams(writeShown(shown)))
    expect({ ...read, sentence: read.sentence && toCondition(read.sentence) }).toEqual({
      sentence: YORK,
      words: 'ana',
      sort: shown.sort,
      open: 4,
    })
  })

  it('takes no harm from what somebody else wrote there', () => {
    for (const who of ['{oops', '7', 'null', '[]'])
      expect(() => readShown(new URLSearchParams({ who, open: 'x', sort: '' }))).not.toThrow()
    expect(readShown(new URLSearchParams({ who: '{oops', open: '-3' }))).toEqual({
      sentence: null,
      words: '',
      sort: null,
      open: null,
    })
  })
})
