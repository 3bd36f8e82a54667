import { Extension } from '@tiptap/core'
import type { Node } from '@tiptap/pm/model'
import { type EditorState, Plugin, PluginKey } from '@tiptap/pm/state'
import { Decoration, DecorationSet } from '@tiptap/pm/view'
import { type FieldInfo, nearest, type Place, typedField, unknownNames } from './fields'

const TAKE = 'Tab'

/** Every {{name}} in a document that no field has, at its place in it. */
function places(doc: Node, fields: FieldInfo[]): (Place & { text: string })[] {
  const found: (Place & { text: string })[] = []
  doc.descendants((node, position) => {
    if (!node.isText || !node.text) return
    for (const place of unknownNames(node.text, fields)) {
      const text = node.text.slice(place.from, place.to)
      found.push({ ...place, from: position + place.from, to: position + place.to, text })
    }
  })
  return found
}

/** The one the cursor is in, or right behind, and the field that was probably meant. */
function atCursor(state: EditorState, fields: FieldInfo[]) {
  const { from, to } = state.selection
  const place = places(state.doc, fields).find((one) => one.from <= from && to <= one.to)
  const field = place && nearest(place.name, fields)
  return place && field ? { place, field } : null
}

/** What is shown under a wrong name: the nearest right one, and the key that takes it. */
function hint(field: FieldInfo): HTMLElement {
  const words = document.createElement('span')
  words.className = 'unknown-hint'
  words.contentEditable = 'false'
  words.textContent = `${field.label.toLowerCase()}? Tab takes it`
  return words
}

/** Underlines each {{name}} that no field has, at once; under the one at the cursor stands the nearest, which Tab takes. */
export function unknownFields(fields: () => FieldInfo[]) {
  return Extension.create({
    name: 'unknownFields',
    priority: 1000,
    addKeyboardShortcuts() {
      return {
        [TAKE]: () => {
          const meant = atCursor(this.editor.state, fields())
          if (!meant) return false
          const { place, field } = meant
          const fallback = typedField(place.text, [])?.fallback ?? null
          return this.editor
            .chain()
            .focus()
            .insertContentAt({ from: place.from, to: place.to }, [{ type: 'mergeField', attrs: { field: field.key, fallback } }])
            .run()
        },
      }
    },
    addProseMirrorPlugins: () => [
      new Plugin({
        key: new PluginKey('unknownFields'),
        props: {
          decorations: (state) => {
            const marks = places(state.doc, fields()).map((place) =>
              Decoration.inline(place.from, place.to, {
                class: 'unknown-field',
                title: `There is no field “${place.name}”`,
              }),
            )
            const meant = atCursor(state, fields())
            if (meant)
              marks.push(
                Decoration.widget(meant.place.to, () => hint(meant.field), {
                  side: 1,
                  key: `${meant.place.to}${meant.field.key}`,
                }),
              )
            return DecorationSet.create(state.doc, marks)
          },
        },
      }),
    ],
  })
}
