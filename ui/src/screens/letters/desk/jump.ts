import type { Editor } from '@tiptap/react'

/** Puts the cursor on the first place where these words stand, and shows it; without words, on the beginning. */
export function jumpTo(editor: Editor, excerpt: string | undefined) {
  let found: { from: number; to: number } | null = null
  if (excerpt)
    editor.state.doc.descendants((node, position) => {
      if (found || !node.isText || !node.text) return !found
      const at = node.text.indexOf(excerpt)
      if (at >= 0) found = { from: position + at, to: position + at + excerpt.length }
      return !found
    })
  editor
    .chain()
    .focus()
    .setTextSelection(found ?? 1)
    .scrollIntoView()
    .run()
}
