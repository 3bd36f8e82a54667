import { describe, expect, it } from 'vitest'
import type { Shape } from '../../../api/client'
import { mergeBlocks, mergeDraft } from './merging'

const block = (text: string) => ({ type: 'paragraph', content: [{ type: 'text', text }] })
const doc = (words: string) =>
  ({ type: 'doc', content: words.split(' ').filter(Boolean).map(block) }) as unknown as Shape<'Document'>
const read = (text: Shape<'Document'>) =>
  (text as unknown as { content: { content: { text: string }[] }[] }).content.map((one) => one.content[0]?.text).join(' ')

describe('mergeBlocks', () => {
  it.each([
    ['at opposite ends', 'a b c', 'a b C', 'A b c', 'A b C'],
    ['in blocks beside each other', 'a b c', 'A b c', 'a B c', 'A B c'],
    ['one puts in, one takes out', 'a b c d', 'a b c d new', 'b c d', 'b c d new'],
    ['one moves a block', 'a b c d', 'a b c D', 'b a c d', 'b a c D'],
    ['both the same', 'a b c', 'a X c', 'a X c', 'a X c'],
    ['only they', 'a b', 'a b', 'a b c', 'a b c'],
  ])('takes both: %s', (_, base, mine, theirs, together) => {
    const merged = mergeBlocks(doc(base), doc(mine), doc(theirs))
    expect([read(merged.doc), merged.overlaps]).toEqual([together, []])
  })

  it('names the places where both changed the same block, or put one in', () => {
    const changed = mergeBlocks(doc('a b c'), doc('a mine c'), doc('a theirs C'))
    expect(changed.overlaps).toEqual([{ mine: 'mine c', theirs: 'theirs C' }])
    expect(mergeBlocks(doc('a b'), doc('a mine b'), doc('a theirs b')).overlaps).toEqual([{ mine: 'mine', theirs: 'theirs' }])
  })

  it('takes a block for the same whatever order its keys have, and whether an empty value is there or left out', () => {
    const odd = {
      type: 'doc',
      content: [{ content: [{ text: 'a', type: 'text' }], attrs: undefined, type: 'paragraph' }, block('b')],
    }
    expect(read(mergeBlocks(doc('a b'), odd as never, doc('A b')).doc)).toBe('A b')
  })
})

describe('mergeDraft', () => {
  it('takes what only one of them changed', () => {
    const [base, theirs] = [
      { name: 'N', manner: 'plain', body: doc('a b') },
      { name: 'Theirs', manner: 'plain', body: doc('a B') },
    ]
    const { draft, overlaps } = mergeDraft(base, { manner: 'designed', body: doc('A b') }, theirs)
    expect([draft, overlaps]).toEqual([{ manner: 'designed', body: doc('A B') }, []])
  })

  it('merges each language of a passage by itself; one that was taken out stays out', () => {
    const base = { documents: { any: doc('a b'), de: doc('x'), fr: doc('q') } }
    const theirs = { documents: { any: doc('A b'), de: doc('x'), fr: doc('q'), sv: doc('s') } }
    const { draft, overlaps } = mergeDraft(base, { documents: { any: doc('a B'), de: doc('y') } }, theirs)
    expect([draft, overlaps]).toEqual([{ documents: { any: doc('A B'), de: doc('y'), sv: doc('s') } }, []])
  })

  it('says where both gave it another name', () => {
    expect(mergeDraft({ name: 'N' }, { name: 'Mine' }, { name: 'Theirs' }).overlaps).toEqual([{ mine: 'Mine', theirs: 'Theirs' }])
  })
})
