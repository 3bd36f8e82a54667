import type { Editor, JSONContent } from '@tiptap/react'
import { useRef, useState } from 'react'
import type { Shape } from '../../../api/client'
import { ErrorNote } from '../../../parts/States'
import { BlockHandle } from '../editor/BlockHandle'
import { EditorTools } from '../editor/EditorTools'
import { LetterEditor } from '../editor/LetterEditor'
import type { Draft } from '../saving/draft'
import { Attachments } from './Attachments'
import { useChoosing } from './useChoosing'
import { useLookStyle } from './useLook'

export type Desk = { subject: Editor | null; preview: Editor | null; body: Editor | null }

function Line({
  label,
  document,
  placeholder,
  onChange,
  onEditor,
}: {
  label: string
  document: JSONContent
  placeholder: string
  onChange: (document: JSONContent) => void
  onEditor: (editor: Editor) => void
}) {
  return (
    <div className="flex items-baseline gap-3 bg-[var(--sheet)] border border-base-300 rounded-sm px-3 py-1.5 mb-2">
      <span className="field-label !mb-0 w-20 shrink-0">{label}</span>
      <div className="grow min-w-0 text-[15px]">
        <LetterEditor line label={label} document={document} placeholder={placeholder} onChange={onChange} onEditor={onEditor} />
      </div>
    </div>
  )
}

/** Where the letter is written: its two lines, its text, what goes with it. */
export function WritingDesk({
  letter,
  first,
  manner,
  about,
  desk,
  onChange,
}: {
  letter: Shape<'Letter'>
  first: Pick<Shape<'Letter'>, 'subject' | 'preview' | 'body'>
  manner: 'plain' | 'designed'
  about: 'anybody' | 'deal'
  desk: React.RefObject<Desk>
  onChange: (draft: Draft) => void
}) {
  const [editor, setEditor] = useState<Editor | null>(null)
  const { choosing, dialogs } = useChoosing(editor)
  const [problem, setProblem] = useState<unknown>(null)
  const sheet = useRef<HTMLDivElement>(null)
  const look = useLookStyle()
  return (
    <div>
      <Line
        label="Subject"
        document={first.subject as JSONContent}
        placeholder="What the inbox shows first"
        onChange={(subject) => onChange({ subject: subject as Shape<'Document'> })}
        onEditor={(made) => {
          desk.current.subject = made
        }}
      />
      <Line
        label="Preview line"
        document={first.preview as JSONContent}
        placeholder="What stands beside the subject"
        onChange={(preview) => onChange({ preview: preview as Shape<'Document'> })}
        onEditor={(made) => {
          desk.current.preview = made
        }}
      />
      <div className="mt-3">
        <EditorTools editor={editor} choosing={choosing} about={about} />
      </div>
      {problem != null && (
        <div className="relative">
          <ErrorNote error={problem} retry={undefined} />
          <button type="button" className="quiet-word absolute right-3 top-5" onClick={() => setProblem(null)}>
            Well
          </button>
        </div>
      )}
      <div
        ref={sheet}
        // A designed letter has its own colours, in the dark as well.
        data-theme={manner === 'designed' ? 'desk' : undefined}
        className={`sheet letter-text relative ${manner === 'designed' ? 'letter-designed' : ''} px-9 py-7`}
        style={manner === 'designed' ? look : undefined}
      >
        <LetterEditor
          label="Text of the letter"
          document={first.body as JSONContent}
          placeholder="Dear… Type {{ for a field, / for a block."
          choosing={choosing}
          onEditor={(made) => {
            desk.current.body = made
            setEditor(made)
          }}
          onProblem={setProblem}
          onChange={(body) => {
            if (problem != null) setProblem(null)
            onChange({ body: body as Shape<'Document'> })
          }}
        />
        {editor && <BlockHandle editor={editor} around={sheet} />}
      </div>
      <Attachments letter={letter} />
      <p className="muted text-xs mt-1">
        Signature, the firm’s address and the way out are put below it by themselves. Alt and an arrow move a block; arrows and
        Enter open a merge field.
      </p>
      {dialogs}
    </div>
  )
}
