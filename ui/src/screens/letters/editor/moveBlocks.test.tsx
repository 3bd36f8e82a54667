import { Editor, type JSONContent } from '@tiptap/core'
import StarterKit from '@tiptap/starter-kit'
import { afterEach, beforeAll, describe, expect, it } from 'vitest'
import { jumpTo } from '../desk/jump'
import { Divider, LetterDocument } from './blocks'
import { MoveBlocks, moveBlock } from './moveBlocks'

const para = (text: string) => ({ type: 'paragraph', content: [{ type: 'text', text }] })
let editor: Editor

function writing(...content: JSONContent[]) {
  editor = new Editor({
    injectCSS: false,
    extensions: [
      StarterKit.configure({ document: false, horizontalRule: false, trailingNode: false }),
      LetterDocument.extend({ content: 'block+' }),
      Divider,
      MoveBlocks,
    ],
    content: { type: 'doc', content },
  })
  return editor
}

const order = () => editor.getJSON().content?.map((block: JSONContent) => block.content?.[0]?.text ?? block.type)
const words = () => editor.state.doc.textContent
const cursorIn = (words: string) => {
  let at = 0
  editor.state.doc.descendants((node, position) => {
    if (node.text?.includes(words)) at = position
  })
  editor.commands.setTextSelection(at + 1)
}
const lineOfCursor = () => editor.state.selection.$from.parent.textContent

beforeAll(() => {
  // What an editor asks of a page that is laid out, which jsdom does not do.
  Range.prototype.getClientRects = () => [] as unknown as DOMRectList
  Range.prototype.getBoundingClientRect = () => new DOMRect()
})
afterEach(() => editor.destroy())

describe('moveBlock', () => {
  it('moves a block down and up, with all that is in it', () => {
    writing(para('one'), { type: 'bulletList', content: [{ type: 'listItem', content: [para('two')] }] }, para('three'))
    expect(moveBlock(editor, 1, 2)).toBe(true)
    expect(order()).toEqual(['one', 'three', 'bulletList'])
    moveBlock(editor, 2, 0)
    expect(words()).toBe('twoonethree')
  })

  it('takes the cursor along', () => {
    writing(para('one'), para('two'), para('three'))
    cursorIn('one')
    moveBlock(editor, 0, 2)
    expect(order()).toEqual(['two', 'three', 'one'])
    expect(lineOfCursor()).toBe('one')
  })

  it('chooses a block that holds no words', () => {
    writing(para('one'), { type: 'divider' })
    moveBlock(editor, 1, 0)
    expect(order()).toEqual(['divider', 'one'])
    expect(editor.state.selection.toJSON()).toMatchObject({ type: 'node', anchor: 0 })
  })

  it('goes no further than the ends', () => {
    writing(para('one'), para('two'))
    expect([moveBlock(editor, 0, -1), moveBlock(editor, 1, 2), moveBlock(editor, 1, 1)]).toEqual([false, false, false])
    expect(order()).toEqual(['one', 'two'])
  })

  it('is one step for undoing', () => {
    writing(para('one'), para('two'))
    moveBlock(editor, 0, 1)
    editor.commands.undo()
    expect(order()).toEqual(['one', 'two'])
  })
})

describe('Alt with an arrow', () => {
  const press = (key: string) =>
    editor.view.someProp('handleKeyDown', (handle) => handle(editor.view, new KeyboardEvent('keydown', { key, altKey: true })))

  it('moves the block one is in, however deep', () => {
    writing(para('one'), { type: 'bulletList', content: [{ type: 'listItem', content: [para('two')] }] })
    cursorIn('two')
    press('ArrowUp')
    expect(words()).toBe('twoone')
    press('ArrowDown')
    expect(words()).toBe('onetwo')
    expect(lineOfCursor()).toBe('two')
  })
})

describe('jumpTo', () => {
  it('marks the first place where the words stand', () => {
    writing(para('a quiet room'), para('a quiet street'))
    jumpTo(editor, 'quiet')
    const { from, to } = editor.state.selection
    expect([editor.state.doc.textBetween(from, to), lineOfCursor()]).toEqual(['quiet', 'a quiet room'])
  })

  it('goes to the beginning when they are gone, or when there are none', () => {
    writing(para('a quiet room'), para('a street'))
    for (const words of ['loud', undefined]) {
      cursorIn('street')
      jumpTo(editor, words)
      expect(lineOfCursor()).toBe('a quiet room')
    }
  })
})
