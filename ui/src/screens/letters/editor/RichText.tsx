import { Extension } from '@tiptap/core'
import { Placeholder } from '@tiptap/extensions'
import type { Editor, Extensions, JSONContent } from '@tiptap/react'
import { EditorContent, useEditor } from '@tiptap/react'
import StarterKit from '@tiptap/starter-kit'
import { useContext, useEffect, useRef } from 'react'
import { type FieldInfo, typedField } from './fields'
import { MergeField } from './mergeField'
import { fieldsFor } from './offers'
import { clipboardHtml, pictureFiles, readHtml, sendPicture } from './pasting'
import { suggesting } from './suggesting'
import { unknownFields } from './unknownFields'
import { type Writing, WritingContext } from './writing'

export type RichTextProps = {
  label: string
  document: JSONContent
  onChange: (document: JSONContent) => void
  blocks?: (writing: () => Writing) => Extensions
  placeholder?: string
  className?: string
  onEditor?: (editor: Editor) => void
  onProblem?: (problem: unknown) => void
  /** Of a single line: goes on to what comes after it. */
  onEnter?: () => void
  /** Nothing can be written for now. */
  locked?: boolean
}

const LINE = {
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
} as const

/** A single line has no second one: Enter goes on. A menu that is open takes it first; with Ctrl it is for the page. */
const oneLine = (goOn: () => void) =>
  Extension.create({
    name: 'oneLine',
    priority: 150,
    addKeyboardShortcuts: () => {
      const on = () => {
        goOn()
        return true
      }
      return { Enter: on, 'Shift-Enter': () => true, 'Mod-Enter': () => true }
    },
  })

/** Turns typed {{names}} into chips. An unknown name stays as text and is marked. */
function takeInTypedFields(editor: Editor, fields: FieldInfo[]) {
  editor.state.doc.descendants((node, position) => {
    const found = node.isText && node.text ? typedField(node.text, fields) : null
    if (!found?.field) return
    const from = position + found.index
    editor
      .chain()
      .insertContentAt(
        { from, to: from + found.length },
        { type: 'mergeField', attrs: { field: found.field.key, fallback: found.fallback, form: null } },
      )
      .run()
    return false
  })
}

/** Words with merge fields: a single line, or with `blocks` a whole text of them. */
export function RichText({
  label,
  document,
  onChange,
  blocks,
  placeholder,
  className,
  onEditor,
  onProblem,
  onEnter,
  locked = false,
}: RichTextProps) {
  const line = !blocks
  const writing = useContext(WritingContext)
  // The editor is made once; what its menus offer follows the letter.
  const now = useRef({ writing, onProblem, onChange, onEnter })
  now.current = { writing, onProblem, onChange, onEnter }
  const made = useRef<Editor | null>(null)
  const putIn = (work: Promise<JSONContent[]>, at?: number) => {
    work
      .then((content) => {
        const chain = made.current?.chain().focus()
        // A single paragraph goes into the line one is in.
        const only = content.length === 1 && content[0]?.type === 'paragraph' ? (content[0].content ?? []) : content
        if (at === undefined) chain?.insertContent(only).run()
        else chain?.insertContentAt(at, only).run()
      })
      .catch((problem: unknown) => now.current.onProblem?.(problem))
  }
  const pictures = (files: File[], at?: number) =>
    putIn(
      Promise.all(files.map(sendPicture)).then((sent) =>
        sent.map((picture) => ({ type: 'picture', attrs: { picture_id: picture.id, alt: [], href: [], width: 100 } })),
      ),
      at,
    )
  const editor = useEditor({
    injectCSS: false,
    extensions: [
      StarterKit.configure(
        line
          ? LINE
          : {
              document: false,
              heading: { levels: [1, 2, 3] },
              blockquote: false,
              codeBlock: false,
              code: false,
              strike: false,
              underline: false,
              horizontalRule: false,
              trailingNode: false,
              dropcursor: { color: 'var(--color-primary)', width: 2 },
              link: {
                openOnClick: false,
                protocols: ['mailto', 'tel'],
                HTMLAttributes: { rel: null, target: null, class: null },
              },
            },
      ),
      ...(line ? [oneLine(() => now.current.onEnter?.())] : []),
      MergeField,
      unknownFields(() => now.current.writing.fields),
      suggesting('fieldMenu', '{{', (words) => fieldsFor(words, now.current.writing.fields), false),
      Placeholder.configure({ placeholder: placeholder ?? '' }),
      ...(blocks?.(() => now.current.writing) ?? []),
    ],
    content: document,
    editorProps: {
      attributes: {
        role: 'textbox',
        'aria-label': label,
        'aria-multiline': String(!line),
        class: line ? 'min-h-6' : (className ?? 'min-h-72'),
      },
      // Before the editor reads it: what has to be read by the server is not parsed here, however large it is.
      handleDOMEvents: {
        paste: (_view, event) => {
          const data = event.clipboardData
          if (!data || line) return false
          const files = pictureFiles(data)
          const html = clipboardHtml(data)
          if (files.length > 0 && !html) pictures(files)
          else if (html) putIn(readHtml(html))
          else return false
          event.preventDefault()
          return true
        },
      },
      handleDrop: (view, event) => {
        const files = pictureFiles(event.dataTransfer)
        if (line || files.length === 0) return false
        pictures(files, view.posAtCoords({ left: event.clientX, top: event.clientY })?.pos)
        return true
      },
    },
    onUpdate: ({ editor: changed }) => {
      takeInTypedFields(changed, now.current.writing.fields)
      now.current.onChange(changed.getJSON())
    },
  })
  made.current = editor
  useEffect(() => {
    if (editor) onEditor?.(editor)
  }, [editor, onEditor])
  useEffect(() => {
    if (editor && editor.isEditable === locked) editor.setEditable(!locked, false)
  }, [editor, locked])
  return <EditorContent editor={editor} />
}
