import { describe, expect, it } from 'vitest'
import { standIn } from '../../../testing/server'
import { clipboardHtml, pictureFiles, readHtml } from './pasting'

const clipboard = (types: Record<string, string>, files: File[] = []) =>
  ({ getData: (type: string) => types[type] ?? '', files }) as unknown as DataTransfer

describe('clipboardHtml', () => {
  it('has the server read what comes from other programs', () => {
    expect(clipboardHtml(clipboard({ 'text/html': '<p class="Mso">x</p>' }))).toBe('<p class="Mso">x</p>')
  })

  it('leaves what was copied here to the editor', () => {
    expect(clipboardHtml(clipboard({ 'text/html': '<p data-pm-slice="1 1 []">x</p>' }))).toBeNull()
  })

  it('leaves plain words to the editor', () => {
    expect(clipboardHtml(clipboard({ 'text/plain': 'Dear you, 20 % off & more' }))).toBeNull()
  })

  it.each(['{{city}}', '[City]', '{City}', '«City»', '<<City>>', '%CITY%', '$' + '{city}'])(
    'has the server read %s, for it could name a field',
    (text) => {
      expect(clipboardHtml(clipboard({ 'text/plain': `in ${text}` }))).not.toBeNull()
    },
  )

  it('keeps paragraphs and lines, and what looks like HTML is only words', () => {
    expect(clipboardHtml(clipboard({ 'text/plain': 'Dear {{city}},\n<b>&\n\nyours' }))).toBe(
      '<p>Dear {{city}},<br>&lt;b&gt;&amp;</p><p>yours</p>',
    )
  })
})

describe('readHtml', () => {
  it('hands back the blocks that were read', async () => {
    const block = { type: 'paragraph' }
    const server = standIn({ 'POST /api/letters/read': () => ({ body: { document: { type: 'doc', content: [block] } } }) })
    expect(await readHtml('<p>x</p>')).toEqual([block])
    expect(server.of('POST')).toEqual([{ html: '<p>x</p>' }])
  })

  it('sends nothing that is far too large, and says that nothing was lost', async () => {
    const server = standIn({})
    await expect(readHtml('x'.repeat(5 * 1024 * 1024))).rejects.toMatchObject({
      code: 'letter_too_long',
      message: 'This is 5 MB; a letter takes 512 kB of text.',
      hint: expect.stringContaining('nothing was lost'),
    })
    expect(server.asked).toEqual([])
  })
})

describe('pictureFiles', () => {
  it('finds the pictures among what was dropped', () => {
    const [room, list] = [new File([''], 'room.png', { type: 'image/png' }), new File([''], 'list.csv', { type: 'text/csv' })]
    expect(pictureFiles(clipboard({}, [room, list]))).toEqual([room])
    expect(pictureFiles(null)).toEqual([])
  })
})
