import { useMutation, useQueryClient } from '@tanstack/react-query'
import type { Editor, JSONContent } from '@tiptap/react'
import { useEffect, useMemo, useRef, useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { clock } from '../../app/format'
import { useSession } from '../../app/session'
import { useCatalogue } from '../../app/useCatalogue'
import { classes } from '../../parts/classes'
import { MenuList } from '../../parts/MenuList'
import { Popover } from '../../parts/Popover'
import { ErrorNote } from '../../parts/States'
import { useChoosing } from '../letters/desk/useChoosing'
import { EditorTools } from '../letters/editor/EditorTools'
import { offered } from '../letters/editor/fields'
import { LetterEditor } from '../letters/editor/LetterEditor'
import { WritingContext } from '../letters/editor/writing'

type Passage = Shape<'Passage'>
type Documents = Passage['documents']
const PAUSE_MS = 700
const ANY = ''

/** Writes one passage, in the language for all others and in any beside it. */
export function PassageEditor({ passage, onGone }: { passage: Passage; onGone: () => void }) {
  const client = useQueryClient()
  const { firm } = useSession()
  const { data: catalogue } = useCatalogue()
  const [name, setName] = useState(passage.name)
  const [documents, setDocuments] = useState<Documents>(passage.documents)
  const [language, setLanguage] = useState(ANY)
  const [editor, setEditor] = useState<Editor | null>(null)
  const { choosing, dialogs } = useChoosing(editor)
  const version = useRef(passage.version)
  const timer = useRef(0)
  const writing = useMemo(
    () => ({
      fields: offered(catalogue?.fields ?? [], 'deal'),
      manner: 'designed' as const,
      audience: undefined,
      within: 'passage' as const,
    }),
    [catalogue],
  )
  const save = useMutation({
    mutationFn: (body: { name?: string; documents?: Documents }) =>
      ask(api.PATCH('/api/passages/{id}', { params: { path: { id: passage.id } }, body: { ...body, version: version.current } })),
    onSuccess: (saved) => {
      version.current = saved.version
      for (const key of ['passages', 'preview', 'stack', 'checks']) client.invalidateQueries({ queryKey: [key] })
    },
    scope: { id: `passage ${passage.id}` },
  })
  const remove = useMutation({
    mutationFn: () => ask(api.DELETE('/api/passages/{id}', { params: { path: { id: passage.id } } })),
    onSuccess: () => {
      client.invalidateQueries({ queryKey: ['passages'] })
      onGone()
    },
  })
  const [typing, setTyping] = useState(false)
  const waiting = useRef<{ name?: string; documents?: Documents }>({})
  const flush = useRef(() => {})
  flush.current = () => {
    window.clearTimeout(timer.current)
    const body = waiting.current
    waiting.current = {}
    setTyping(false)
    if (Object.keys(body).length > 0) save.mutate(body)
  }
  const later = (body: { name?: string; documents?: Documents }) => {
    waiting.current = { ...waiting.current, ...body }
    setTyping(true)
    window.clearTimeout(timer.current)
    timer.current = window.setTimeout(() => flush.current(), PAUSE_MS)
  }
  useEffect(() => () => flush.current(), [])
  const languages = catalogue?.fields.find((field) => field.key === 'person.language')?.choices ?? []
  const words = (code: string) =>
    code === ANY ? 'For everybody else' : (languages.find((one) => one.value === code)?.words ?? code)
  const keep = (changed: Documents) => {
    setDocuments(changed)
    later({ documents: changed })
  }
  return (
    <WritingContext.Provider value={writing}>
      <div>
        {(save.error ?? remove.error) && <ErrorNote error={save.error ?? remove.error} />}
        <div className="flex items-baseline gap-3 mb-3">
          <input
            aria-label="Name of the passage"
            className={classes(
              'font-serif text-xl grow bg-transparent border-b border-transparent hover:border-base-300',
              'focus:border-primary !outline-none',
            )}
            value={name}
            maxLength={120}
            onChange={(event) => {
              setName(event.target.value)
              if (event.target.value.trim()) later({ name: event.target.value })
            }}
          />
          <span className="muted text-xs" role="status">
            {typing || save.isPending
              ? 'Saving…'
              : save.error
                ? 'Not saved'
                : `Saved ${clock(save.data?.updated_at ?? passage.updated_at, firm.time_zone)}`}
          </span>
          {passage.used_in.length === 0 && (
            <button type="button" className="quiet-word !text-xs" onClick={() => remove.mutate()}>
              Take it away
            </button>
          )}
        </div>
        <div className="flex gap-3 text-[13px] mb-3" role="group" aria-label="Language">
          {Object.keys(documents).map((code) => (
            <button
              key={code}
              type="button"
              aria-pressed={code === language}
              className={`border-b-2 min-h-6 ${code === language ? 'border-primary font-semibold' : 'border-transparent muted'}`}
              onClick={() => setLanguage(code)}
            >
              {words(code)}
            </button>
          ))}
          <Popover words="+ a language" label="Another language" className="quiet-word">
            {(shut) => (
              <MenuList
                items={languages.filter((one) => !(one.value in documents))}
                onPick={(code) => {
                  keep({ ...documents, [code]: documents[ANY] ?? { type: 'doc', content: [{ type: 'paragraph' } as never] } })
                  setLanguage(String(code))
                  shut()
                }}
              />
            )}
          </Popover>
          {language !== ANY && (
            <button
              type="button"
              className="quiet-word"
              onClick={() => {
                const { [language]: _, ...rest } = documents
                setLanguage(ANY)
                keep(rest)
              }}
            >
              Take {words(language)} out
            </button>
          )}
        </div>
        <EditorTools editor={editor} choosing={choosing} />
        <div className="sheet letter-text px-9 py-7">
          <LetterEditor
            key={language}
            label={`Text of the passage, ${words(language).toLowerCase()}`}
            className="min-h-40"
            document={(documents[language] ?? { type: 'doc' }) as JSONContent}
            placeholder="Type {{ for a field, / for a block."
            choosing={choosing}
            onEditor={setEditor}
            onChange={(document) => keep({ ...documents, [language]: document as Shape<'Document'> })}
          />
        </div>
        <p className="muted text-xs mt-3">
          Readers get the text in their own language if there is one, with its dates and numbers; everybody else gets the first.
        </p>
        {dialogs}
      </div>
    </WritingContext.Provider>
  )
}
