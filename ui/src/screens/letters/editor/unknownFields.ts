import { Extension } from '@tiptap/core'
import { Plugin, PluginKey } from '@tiptap/pm/state'
import { Decoration, DecorationSet } from '@tiptap/pm/view'
import { type FieldInfo, unknownNames } from './fields'

/** Underlines each {{name}} that no field has, at once. */
export function unknownFields(fields: () => FieldInfo[]) {
  return Extension.create({
    name: 'unknownFields',
    addProseMirrorPlugins: () => [
      new Plugin({
        key: new PluginKey('unknownFields'),
        props: {
          decorations: (state) => {
            const marks: Decoration[] = []
            state.doc.descendants((node, position) => {
              if (!node.isText || !node.text) return
              for (const place of unknownNames(node.text, fields()))
                marks.push(
                  Decoration.inline(position + place.from, position + place.to, {
                    class: 'unknown-field',
                    title: `There is no field “${place.name}”`,
                  }),
                )
            })
            return DecorationSet.create(state.doc, marks)
          },
        },
      }),
    ],
  })
}
