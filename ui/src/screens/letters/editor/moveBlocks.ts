import { type Editor, Extension } from '@tiptap/core'
import { NodeSelection, TextSelection } from '@tiptap/pm/state'

/** Where the top block around the cursor stands, and how many there are. */
function topBlock(editor: Editor) {
  const { $from } = editor.state.selection
  const index = $from.depth === 0 ? $from.index(0) : $from.index(0)
  return { index, count: editor.state.doc.childCount }
}

/** Moves a top block to another place; the cursor goes along. */
export function moveBlock(editor: Editor, from: number, to: number): boolean {
  const { doc } = editor.state
  if (to < 0 || to >= doc.childCount || from === to) return false
  const start = Array.from({ length: from }, (_, i) => doc.child(i).nodeSize).reduce((sum, size) => sum + size, 0)
  const node = doc.child(from)
  const offset = editor.state.selection.from - start
  const transaction = editor.state.tr.delete(start, start + node.nodeSize)
  const place = Array.from({ length: to }, (_, i) => transaction.doc.child(i).nodeSize).reduce((sum, size) => sum + size, 0)
  transaction.insert(place, node)
  const selection = node.isAtom
    ? NodeSelection.create(transaction.doc, place)
    : TextSelection.near(transaction.doc.resolve(Math.min(place + Math.max(1, offset), transaction.doc.content.size)))
  editor.view.dispatch(transaction.setSelection(selection).scrollIntoView())
  return true
}

/** Alt with an arrow moves the block one is in. */
export const MoveBlocks = Extension.create({
  name: 'moveBlocks',
  addKeyboardShortcuts() {
    const by = (step: number) => () => {
      const { index } = topBlock(this.editor)
      moveBlock(this.editor, index, index + step)
      return true
    }
    return { 'Alt-ArrowUp': by(-1), 'Alt-ArrowDown': by(1) }
  },
})
