import type { Editor } from '@tiptap/react'
import { useEditorState } from '@tiptap/react'
import { type ReactNode, useContext, useState } from 'react'
import { Popover } from '../../../parts/Popover'
import { matching } from './fields'
import { linkAddress, UNCLEAR } from './linkAddress'
import { blockOffers, type Choosing } from './offers'
import { WritingContext } from './writing'

const TOOL = 'btn btn-xs btn-plain'

function Tool({
  label,
  on,
  children,
  onClick,
  disabled,
}: {
  label: string
  on?: boolean
  children: ReactNode
  onClick: () => void
  disabled?: boolean
}) {
  return (
    <button
      type="button"
      className={`${TOOL} ${on ? '!bg-base-200 !border-primary' : ''}`}
      aria-label={label}
      aria-pressed={on}
      disabled={disabled}
      // The text keeps its selection.
      onMouseDown={(event) => event.preventDefault()}
      onClick={onClick}
    >
      {children}
    </button>
  )
}

function FieldMenu({ editor, about }: { editor: Editor; about?: 'anybody' | 'deal' }) {
  const { fields } = useContext(WritingContext)
  const [words, setWords] = useState('')
  return (
    <Popover words="{{ field" label="Merge field" className={`${TOOL} !text-primary`}>
      {(shut) => (
        <div className="w-64">
          <input
            className="text-field mb-2"
            placeholder="Find a field"
            aria-label="Find a field"
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
          <ul className="max-h-64 overflow-auto">
            {matching(words, fields, 80).map((field) => (
              <li key={field.key}>
                <button
                  type="button"
                  className="flex w-full justify-between px-1.5 py-1 rounded-sm hover:bg-base-200"
                  onClick={() => {
                    editor
                      .chain()
                      .focus()
                      .insertContent({ type: 'mergeField', attrs: { field: field.key, fallback: null, form: null } })
                      .run()
                    shut()
                  }}
                >
                  {field.label}
                  <span className="muted text-xs">{field.subject}</span>
                </button>
              </li>
            ))}
          </ul>
          {about === 'anybody' && (
            <p className="muted text-xs mt-2">
              Fields of a deal are not here, since not everybody has one. Say under “Written for” that this letter is for people
              with a deal.
            </p>
          )}
        </div>
      )}
    </Popover>
  )
}

function LinkTool({ editor }: { editor: Editor }) {
  const given = editor.getAttributes('link')
  const [problem, setProblem] = useState('')
  const set = (form: FormData, shut: () => void) => {
    const typed = String(form.get('href')).trim()
    const href = linkAddress(typed)
    if (href === null) return setProblem(UNCLEAR)
    const chain = editor.chain().focus().extendMarkRange('link')
    if (!href) chain.unsetLink().run()
    else if (editor.state.selection.empty && !given.href)
      chain.insertContent({ type: 'text', text: typed, marks: [{ type: 'link', attrs: { href } }] }).run()
    else chain.setMark('link', { href, title: String(form.get('title')).trim() || null }).run()
    setProblem('')
    shut()
  }
  return (
    <Popover words="Link" label="Link" className={`${TOOL} ${given.href ? '!bg-base-200 !border-primary' : ''}`}>
      {(shut) => (
        <form
          className="w-72 p-1"
          noValidate
          onSubmit={(event) => {
            event.preventDefault()
            set(new FormData(event.currentTarget), shut)
          }}
        >
          <label className="field-label" htmlFor="link-to">
            Where the chosen words lead
          </label>
          <input
            id="link-to"
            name="href"
            className="text-field"
            placeholder="https://"
            defaultValue={given.href ?? ''}
            onChange={(event) => {
              const typed = event.target.value.trim()
              setProblem(/^(javascript|data|file):/i.test(typed) ? UNCLEAR : '')
            }}
          />
          <label className="block mt-2">
            <span className="field-label">Said when the pointer rests on it</span>
            <input name="title" className="text-field" defaultValue={given.title ?? ''} />
          </label>
          {problem && (
            <p role="alert" className="text-error text-xs mt-1">
              {problem}
            </p>
          )}
          <p className="flex justify-between items-center mt-2">
            <span className="muted text-xs">An empty one takes the link away.</span>
            <button type="submit" className="btn btn-xs btn-primary">
              Set
            </button>
          </p>
        </form>
      )}
    </Popover>
  )
}

/** Puts fields, blocks, links and emphasis into the text. */
export function EditorTools({
  editor,
  choosing,
  about,
  children,
}: {
  editor: Editor | null
  choosing: Choosing
  about?: 'anybody' | 'deal'
  /** What else one can do with the paper. */
  children?: ReactNode
}) {
  const writing = useContext(WritingContext)
  const state = useEditorState({
    editor,
    selector: ({ editor: one }) => ({
      bold: one?.isActive('bold') ?? false,
      italic: one?.isActive('italic') ?? false,
      link: one?.isActive('link') ?? false,
      undo: one?.can().undo() ?? false,
      redo: one?.can().redo() ?? false,
    }),
  })
  if (!editor || !state) return null
  return (
    <div className="flex gap-1.5 mb-2 flex-wrap" role="toolbar" aria-label="Text">
      <FieldMenu editor={editor} about={about} />
      <Popover words="/ block" label="Add a block" className={TOOL}>
        {(shut) => (
          <ul className="flex flex-wrap gap-x-1 w-[30rem]">
            {blockOffers(writing, choosing).map((offer) => (
              <li key={offer.key}>
                <button
                  type="button"
                  className="px-1.5 py-1 rounded-sm hover:bg-base-200"
                  onClick={() => {
                    const { from } = editor.state.selection
                    shut()
                    offer.run(editor, { from, to: from })
                  }}
                >
                  {offer.words}
                </button>
              </li>
            ))}
          </ul>
        )}
      </Popover>
      <Tool label="Bold" on={state.bold} onClick={() => editor.chain().focus().toggleBold().run()}>
        <strong>B</strong>
      </Tool>
      <Tool label="Italic" on={state.italic} onClick={() => editor.chain().focus().toggleItalic().run()}>
        <em className="font-serif">I</em>
      </Tool>
      <LinkTool key={String(state.link)} editor={editor} />
      {children}
      <span className="grow" />
      <Tool label="Undo" disabled={!state.undo} onClick={() => editor.chain().focus().undo().run()}>
        Undo
      </Tool>
      <Tool label="Redo" disabled={!state.redo} onClick={() => editor.chain().focus().redo().run()}>
        Redo
      </Tool>
    </div>
  )
}
