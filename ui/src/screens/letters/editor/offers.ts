import type { Editor, Range } from '@tiptap/core'
import { type FieldInfo, matching } from './fields'
import type { Offer } from './suggesting'
import type { Writing } from './writing'

/** Opens what needs a choice of its own before it can stand in the text. */
export type Choosing = { picture: () => void; passage: () => void }

const EMPTY_SIDES = [
  { type: 'side', content: [{ type: 'paragraph' }] },
  { type: 'side', content: [{ type: 'paragraph' }] },
]

const put = (content: object) => (editor: Editor, range: Range) =>
  editor.chain().focus().deleteRange(range).insertContent(content).run()

/** Blocks that can be put into what is being written. */
export function blockOffers(writing: Writing, choosing: Choosing): Offer[] {
  const turn = (act: (editor: Editor) => unknown) => (editor: Editor, range: Range) => {
    editor.chain().focus().deleteRange(range).run()
    act(editor)
  }
  const everywhere: Offer[] = [
    {
      key: 'heading',
      words: 'Heading',
      run: turn((editor) => editor.chain().focus().setNode('heading', { level: 2 }).run()),
    },
    { key: 'text', words: 'Text', run: turn((editor) => editor.chain().focus().setNode('paragraph').run()) },
    { key: 'list', words: 'List', run: turn((editor) => editor.chain().focus().toggleBulletList().run()) },
    {
      key: 'numbers',
      words: 'Numbered list',
      run: turn((editor) => editor.chain().focus().toggleOrderedList().run()),
    },
    { key: 'quote', words: 'Quote', run: turn((editor) => editor.chain().focus().toggleWrap('quote').run()) },
    { key: 'divider', words: 'Divider', run: put({ type: 'divider' }) },
  ]
  if (writing.within === 'signature') return everywhere.filter((offer) => ['text', 'list', 'divider'].includes(offer.key))
  const pictures: Offer[] = [{ key: 'picture', words: 'Picture…', run: turn(choosing.picture) }]
  const some: Offer[] = [
    {
      key: 'some',
      words: 'Only for some people',
      run: put({ type: 'conditional', attrs: { condition: {} }, content: EMPTY_SIDES }),
    },
    { key: 'passage', words: 'Passage…', run: turn(choosing.passage) },
  ]
  const signature: Offer[] =
    writing.within === 'letter' ? [{ key: 'signature', words: 'Signature', run: put({ type: 'signature' }) }] : []
  const designed: Offer[] = [
    {
      key: 'button',
      words: 'Button',
      run: put({ type: 'button', attrs: { href: [] }, content: [{ type: 'text', text: 'Read on' }] }),
    },
    {
      key: 'columns',
      words: 'Two columns',
      run: put({
        type: 'columns',
        content: [
          { type: 'column', content: [{ type: 'paragraph' }] },
          { type: 'column', content: [{ type: 'paragraph' }] },
        ],
      }),
    },
    { key: 'links', words: 'Row of links', run: put({ type: 'links' }) },
    ...(writing.within === 'letter' ? [{ key: 'footer', words: 'Footer', run: put({ type: 'footer' }) }] : []),
  ]
  return [...everywhere, ...pictures, ...(writing.manner === 'designed' ? designed : []), ...some, ...signature]
}

/** Those of them that fit what was typed after the stroke. */
export function blocksFor(words: string, offers: Offer[]): Offer[] {
  return offers.filter((offer) => offer.words.toLowerCase().includes(words.toLowerCase()))
}

/** Merge fields that fit what was typed after {{. */
export function fieldsFor(words: string, fields: FieldInfo[]): Offer[] {
  return matching(words, fields, 10).map((field) => ({
    key: field.key,
    words: field.label,
    hint: field.subject,
    run: (editor, range) =>
      editor
        .chain()
        .focus()
        .deleteRange(range)
        .insertContent({ type: 'mergeField', attrs: { field: field.key, fallback: null, form: null } })
        .run(),
  }))
}
