import { Placeholder } from '@tiptap/extensions'
import type { Editor, JSONContent } from '@tiptap/react'
import { EditorContent, useEditor } from '@tiptap/react'
import StarterKit from '@tiptap/starter-kit'
import { useContext, useEffect } from 'react'
import { Popover } from '../../parts/Popover'
import { type FieldInfo, FieldsContext, typedField } from './fields'
import { MergeField } from './mergeField'

type Props = {
  label: string
  document: JSONContent
  onChange: (document: JSONContent) => void
  line?: boolean
  placeholder?: string
  onEditor?: (editor: Editor) => void
}

/** Turns typed {{names}} into chips. An unknown name stays as text; the API says which one was meant. */
function takeInTypedFields(editor: Editor, fields: FieldInfo[]) {
  editor.state.doc.descendants((node, position) => {
    const found = node.isText && node.text ? typedField(node.text, fields) : null
    if (!found?.field) return
    const from = position + found.index
    editor
      .chain()
      .insertContentAt(
        { from, to: from + found.length },
        { type: 'mergeField', attrs: { field: found.field.key, fallback: found.fallback } },
      )
      .run()
    return false
  })
}

/** A rich text of a letter: the body, or with `line` a single line such as the subject. */
export function LetterEditor({ label, document, onChange, line = false, placeholder, onEditor }: Props) {
  const fields = useContext(FieldsContext)
  const editor = useEditor({
    injectCSS: false,
    extensions: [
      StarterKit.configure(
        line
          ? {
              heading: false,
              bulletList: false,
              orderedList: false,
              listItem: false,
              listKeymap: false,
              blockquote: false,
              codeBlock: false,
              code: false,
              bold: false,
              italic: false,
              strike: false,
              underline: false,
              link: false,
              horizontalRule: false,
              hardBreak: false,
              trailingNode: false,
              dropcursor: false,
              gapcursor: false,
            }
          : {
              heading: { levels: [2] },
              blockquote: false,
              codeBlock: false,
              code: false,
              strike: false,
              underline: false,
              horizontalRule: false,
              trailingNode: false,
              dropcursor: false,
              link: { openOnClick: false, protocols: ['mailto'], HTMLAttributes: { rel: null, target: null, class: null } },
            },
      ),
      MergeField,
      Placeholder.configure({ placeholder: placeholder ?? '' }),
    ],
    content: document,
    editorProps: {
      attributes: { role: 'textbox', 'aria-label': label, 'aria-multiline': String(!line), class: line ? '' : 'min-h-72' },
      handleKeyDown: (_view, event) => line && event.key === 'Enter',
    },
    onUpdate: ({ editor: changed }) => {
      takeInTypedFields(changed, fields)
      onChange(changed.getJSON())
    },
  })
  useEffect(() => {
    if (editor) onEditor?.(editor)
  }, [editor, onEditor])
  return <EditorContent editor={editor} />
}

/** Puts fields, links and emphasis into the text that was edited last. */
export function EditorTools({ editor }: { editor: Editor | null }) {
  const fields = useContext(FieldsContext)
  if (!editor) return null
  const tool = 'btn btn-xs btn-plain'
  return (
    <div className="flex gap-1.5 mb-2" role="toolbar" aria-label="Text">
      <Popover words="Merge field" label="Merge field" className={`${tool} !text-primary`}>
        {(shut) => (
          <ul className="w-56">
            {fields.map((field) => (
              <li key={field.key}>
                <button
                  type="button"
                  className="flex w-full justify-between px-1.5 py-1 rounded-sm hover:bg-base-200"
                  onClick={() => {
                    editor
                      .chain()
                      .focus()
                      .insertContent({ type: 'mergeField', attrs: { field: field.key, fallback: null } })
                      .run()
                    shut()
                  }}
                >
                  {field.label}
                </button>
              </li>
            ))}
          </ul>
        )}
      </Popover>
      <button type="button" className={tool} onClick={() => editor.chain().focus().toggleBold().run()}>
        <strong>Bold</strong>
      </button>
      <button type="button" className={tool} onClick={() => editor.chain().focus().toggleItalic().run()}>
        <em>Italic</em>
      </button>
      <button type="button" className={tool} onClick={() => editor.chain().focus().toggleBulletList().run()}>
        List
      </button>
      <button type="button" className={tool} onClick={() => editor.chain().focus().toggleHeading({ level: 2 }).run()}>
        Heading
      </button>
      <Popover words="Link" label="Link" className={tool}>
        {(shut) => (
          <div className="w-72 p-1">
            <label className="field-label" htmlFor="link-to">
              Where the chosen words lead
            </label>
            <input
              id="link-to"
              className="text-field"
              placeholder="https://"
              defaultValue={editor.getAttributes('link').href ?? ''}
              onKeyDown={(event) => {
                if (event.key !== 'Enter') return
                const href = event.currentTarget.value.trim()
                if (href) editor.chain().focus().extendMarkRange('link').setLink({ href }).run()
                else editor.chain().focus().extendMarkRange('link').unsetLink().run()
                shut()
              }}
            />
            <p className="muted text-xs mt-1">Enter sets it; an empty one takes the link away.</p>
          </div>
        )}
      </Popover>
      <span className="grow" />
      <button type="button" className={tool} disabled={!editor.can().undo()} onClick={() => editor.chain().focus().undo().run()}>
        Undo
      </button>
      <button type="button" className={tool} disabled={!editor.can().redo()} onClick={() => editor.chain().focus().redo().run()}>
        Redo
      </button>
    </div>
  )
}
