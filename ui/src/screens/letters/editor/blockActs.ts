import type { Editor } from '@tiptap/core'
import { moveBlock } from './moveBlocks'
import type { Writing } from './writing'

/** What can be done with a block as a whole. */
export function blockActs(editor: Editor, index: number, within: Writing['within']): { words: string; run: () => void }[] {
  const { doc } = editor.state
  const block = doc.child(index)
  const from = Array.from({ length: index }, (_, i) => doc.child(i).nodeSize).reduce((sum, size) => sum + size, 0)
  const to = from + block.nodeSize
  const only = {
    words: 'Only for some people…',
    run: () =>
      editor
        .chain()
        .insertContentAt(
          { from, to },
          {
            type: 'conditional',
            attrs: { condition: {} },
            content: [
              { type: 'side', content: [block.toJSON()] },
              { type: 'side', content: [{ type: 'paragraph' }] },
            ],
          },
        )
        .focus()
        .run(),
  }
  const divisible = within !== 'signature' && !['conditional', 'signature', 'footer', 'columns'].includes(block.type.name)
  return [
    ...(index > 0 ? [{ words: 'Move up', run: () => moveBlock(editor, index, index - 1) }] : []),
    ...(index < doc.childCount - 1 ? [{ words: 'Move down', run: () => moveBlock(editor, index, index + 1) }] : []),
    { words: 'Duplicate', run: () => editor.chain().insertContentAt(to, block.toJSON()).focus().run() },
    ...(divisible ? [only] : []),
    { words: 'Delete', run: () => editor.chain().deleteRange({ from, to }).focus().run() },
  ]
}
