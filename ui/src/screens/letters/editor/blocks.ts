import { mergeAttributes, Node } from '@tiptap/core'
import Blockquote from '@tiptap/extension-blockquote'
import Document from '@tiptap/extension-document'
import HorizontalRule from '@tiptap/extension-horizontal-rule'

// The names are those of the core (lib/nimble_letter/core/letters/nodes.rb); so is what may stand in what.
const IN_COLUMN = '(paragraph | heading | bulletList | orderedList | picture | button | divider | links)+'

export const LetterDocument = Document.extend({ content: '(block | edge)+' })

export const Quote = Blockquote.extend({ name: 'quote', content: '(paragraph | bulletList | orderedList)+' })

export const Divider = HorizontalRule.extend({ name: 'divider' })

export const Columns = Node.create({
  name: 'columns',
  group: 'block',
  content: 'column column',
  isolating: true,
  parseHTML: () => [{ tag: 'div[data-columns]' }],
  renderHTML: ({ HTMLAttributes }) => [
    'div',
    mergeAttributes(HTMLAttributes, { 'data-columns': '', class: 'letter-columns' }),
    0,
  ],
})

export const Column = Node.create({
  name: 'column',
  content: IN_COLUMN,
  isolating: true,
  parseHTML: () => [{ tag: 'div[data-column]' }],
  renderHTML: ({ HTMLAttributes }) => ['div', mergeAttributes(HTMLAttributes, { 'data-column': '', class: 'letter-column' }), 0],
})

export const LinksRow = Node.create({
  name: 'links',
  group: 'block',
  content: 'inline*',
  parseHTML: () => [{ tag: 'p[data-links]' }],
  renderHTML: ({ HTMLAttributes }) => ['p', mergeAttributes(HTMLAttributes, { 'data-links': '', class: 'letter-links' }), 0],
})

/** A side of a passage for some people: what they read, or what the others read. */
export const Side = Node.create({
  name: 'side',
  content: 'block+',
  isolating: true,
  parseHTML: () => [{ tag: 'div[data-side]' }],
  renderHTML: ({ HTMLAttributes }) => ['div', mergeAttributes(HTMLAttributes, { 'data-side': '', class: 'letter-side' }), 0],
})
