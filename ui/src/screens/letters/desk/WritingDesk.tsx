import type { Editor, JSONContent } from '@tiptap/react'
import { type ReactNode, useCallback, useRef, useState } from 'react'
import type { Shape } from '../../../api/client'
import { ErrorNote } from '../../../parts/States'
import { BlockMark } from '../editor/BlockMark'
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
  locked,
  onChange,
  onEnter,
  onEditor,
}: {
  label: string
  document: JSONContent
  placeholder: string
  locked: boolean
  onChange: (document: JSONContent) => void
  onEnter: () => void
  onEditor: (editor: Editor) => void
}) {
  return (
    <div className="flex items-baseline gap-3 bg-[var(--sheet)] border border-base-300 rounded-sm px-3 py-1.5 mb-2">
      <span className="field-label !mb-0 w-20 shrink-0">{label}</span>
      <div className="grow min-w-0 text-[15px]">
        <LetterEditor
          line
          label={label}
          document={document}
          placeholder={placeholder}
          locked={locked}
          onChange={onChange}
          onEnter={onEnter}
          onEditor={onEditor}
        />
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
  writes,
  tools,
  locked,
  onChange,
}: {
  letter: Shape<'Letter'>
  first: Pick<Shape<'Letter'>, 'subject' | 'preview' | 'body'>
  manner: 'plain' | 'designed'
  about: 'anybody' | 'deal'
  desk: React.RefObject<Desk>
  /** Whether the cursor begins in an empty subject. */
  writes: boolean
  /** Beside what puts fields and blocks in. */
  tools?: ReactNode
  /** Nothing can be written for now. */
  locked: boolean
  onChange: (draft: Draft) => void
}) {
  const [editor, setEditor] = useState<Editor | null>(null)
  const { choosing, dialogs } = useChoosing(editor)
  const [problem, setProblem] = useState<unknown>(null)
  const sheet = useRef<HTMLDivElement>(null)
  const look = useLookStyle()
  const subject = useCallback(
    (made: Editor) => {
      desk.current.subject = made
      if (writes && made.isEmpty) made.commands.focus('end')
    },
    [desk, writes],
  )
  return (
    <div>
      <Line
        label="Subject"
        document={first.subject as JSONContent}
        placeholder="What the inbox shows first"
        locked={locked}
        onEnter={() => desk.current.body?.commands.focus()}
        onChange={(subject) => onChange({ subject: subject as Shape<'Document'> })}
        onEditor={subject}
      />
      <Line
        label="Preview line"
        document={first.preview as JSONContent}
        placeholder="What stands beside the subject"
        locked={locked}
        onEnter={() => desk.current.body?.commands.focus()}
        onChange={(preview) => onChange({ preview: preview as Shape<'Document'> })}
        onEditor={(made) => {
          desk.current.preview = made
        }}
      />
      <div className="mt-3">
        <EditorTools editor={editor} choosing={choosing} about={about}>
          {tools}
        </EditorTools>
      </div>
      {problem != null && (
        <div className="relative">
          <ErrorNote error={problem} retry={undefined} />
          <button type="button" className="quiet-word absolute right-3 top-5" onClick={() => setProblem(null)}>
            Well
          </button>
        </div>
      )}
      <div ref={sheet} className="relative">
        <div
          // A designed letter has its own colours, in the dark as well.
          data-theme={manner === 'designed' ? 'desk' : undefined}
          className={`sheet letter-text ${manner === 'designed' ? 'letter-designed' : ''} px-9 py-7`}
          style={manner === 'designed' ? look : undefined}
        >
          <LetterEditor
            label="Text of the letter"
            document={first.body as JSONContent}
            placeholder="Dear… Type {{ for a field, / for a block."
            choosing={choosing}
            locked={locked}
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
        </div>
        {editor && !locked && <BlockMark editor={editor} around={sheet} />}
      </div>
      <Attachments letter={letter} />
      <p className="muted text-xs mt-1">
        Signature, the firm’s address and the way out are put below it by themselves. Alt and an arrow move a block, Alt and M
        opens what else can be done with it; arrows and Enter open a merge field.
      </p>
      {dialogs}
    </div>
  )
}
