import type { Editor, JSONContent } from '@tiptap/react'
import { diffIndices } from 'node-diff3'
import { plain } from '../saving/merging'

/**
 * Makes the text in an editor another one, block by block: who writes in a block that stays keeps their place, and what a
 * colleague wrote is not undone with one's own.
 */
export function putBlocks(editor: Editor, wanted: JSONContent) {
  const { doc, schema, tr } = editor.state
  const blocks = wanted.content ?? []
  const starts = [0]
  doc.forEach((block) => {
    starts.push((starts.at(-1) ?? 0) + block.nodeSize)
  })
  const now = (editor.getJSON().content ?? []).map(plain)
  for (const change of diffIndices(now, blocks.map(plain)).reverse()) {
    const [from, length] = change.buffer1
    const [first, count] = change.buffer2
    const fresh = blocks.slice(first, first + count).map((block) => schema.nodeFromJSON(block))
    tr.replaceWith(starts[from] ?? doc.content.size, starts[from + length] ?? doc.content.size, fresh)
  }
  // Nobody typed it here: it is saved already, or on its way.
  if (tr.docChanged) editor.view.dispatch(tr.setMeta('addToHistory', false).setMeta('preventUpdate', true))
}
