import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import type { Editor, JSONContent } from '@tiptap/react'
import { useMemo, useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { inTheWay } from '../../app/away'
import { useCatalogue } from '../../app/useCatalogue'
import { classes } from '../../parts/classes'
import { MenuList } from '../../parts/MenuList'
import { Popover } from '../../parts/Popover'
import { ErrorNote, Loading } from '../../parts/States'
import { useChoosing } from '../letters/desk/useChoosing'
import { EditorTools } from '../letters/editor/EditorTools'
import { offered } from '../letters/editor/fields'
import { LetterEditor } from '../letters/editor/LetterEditor'
import { putBlocks } from '../letters/editor/putBlocks'
import { WritingContext } from '../letters/editor/writing'
import { PASSAGES, type PassageDraft } from '../letters/saving/kept'
import { SavedNote } from '../letters/saving/SavedNote'
import { SavingTrouble } from '../letters/saving/SavingTrouble'
import { StepThrough } from '../letters/saving/StepThrough'
import { useAutosave } from '../letters/saving/useAutosave'
import { useLeftOver } from '../letters/saving/useLeftOver'
import { useRestoring } from '../letters/saving/useRestoring'
import { VersionsPane } from '../letters/saving/VersionsPane'

type Passage = Shape<'Passage'>
type Documents = Passage['documents']
const ANY = ''

/** What one looks at; going back to a version leaves it as it is. */
type View = { language: string; versions: boolean }

/** Writes one passage; what was typed here and never reached the server is gone on with. */
export function PassageEditor({ id, onGone }: { id: number; onGone: () => void }) {
  const [generation, setGeneration] = useState(0)
  const [view, setView] = useState<View>({ language: ANY, versions: false })
  const { data: passage, error, refetch } = useQuery({ queryKey: ['passage', id], queryFn: () => PASSAGES.read(id) })
  const leftOver = useLeftOver(PASSAGES, id, passage)
  if (inTheWay(error, passage)) return <ErrorNote error={error} retry={refetch} />
  if (inTheWay(leftOver.error, leftOver.data)) return <ErrorNote error={leftOver.error} retry={leftOver.refetch} />
  if (!passage || !leftOver.data) return <Loading />
  return (
    <Writing
      key={generation}
      passage={passage}
      begin={generation === 0 ? leftOver.data.draft : null}
      view={view}
      onView={(changed) => setView((now) => ({ ...now, ...changed }))}
      onAnew={() => setGeneration((now) => now + 1)}
      onGone={onGone}
    />
  )
}

/** In the language for all others and in any beside it. */
function Writing({
  passage,
  begin,
  view,
  onView,
  onAnew,
  onGone,
}: {
  passage: Passage
  begin: PassageDraft | null
  view: View
  onView: (changed: Partial<View>) => void
  onAnew: () => void
  onGone: () => void
}) {
  const client = useQueryClient()
  const { data: catalogue } = useCatalogue()
  const autosave = useAutosave(PASSAGES, passage, begin, (theirs, draft) => show({ ...theirs, ...draft }))
  const restoring = useRestoring(PASSAGES, passage.id, autosave, onAnew)
  const [name, setName] = useState(begin?.name ?? passage.name)
  const [documents, setDocuments] = useState<Documents>(begin?.documents ?? passage.documents)
  // A version from before it was written in a language has no text in it.
  const language = view.language in documents ? view.language : ANY
  const [editor, setEditor] = useState<Editor | null>(null)
  const { choosing, dialogs } = useChoosing(editor)
  // What a colleague wrote comes into what stands here.
  const show = (merged: Passage) => {
    setName(merged.name)
    setDocuments(merged.documents)
    const document = merged.documents[language]
    if (editor && document) putBlocks(editor, document as JSONContent)
  }
  const writing = useMemo(
    () => ({
      fields: offered(catalogue?.fields ?? [], 'deal'),
      manner: 'designed' as const,
      audience: undefined,
      within: 'passage' as const,
    }),
    [catalogue],
  )
  const remove = useMutation({
    mutationFn: () => ask(api.DELETE('/api/passages/{id}', { params: { path: { id: passage.id } } })),
    onSuccess: () => {
      client.invalidateQueries({ queryKey: ['passages'] })
      onGone()
    },
  })
  const languages = catalogue?.letter_languages ?? []
  const words = (code: string) =>
    code === ANY ? 'For everybody else' : (languages.find((one) => one.value === code)?.words ?? code)
  const keep = (changed: Documents) => {
    setDocuments(changed)
    autosave.change({ documents: changed })
  }
  return (
    <WritingContext.Provider value={writing}>
      <div>
        {(restoring.restore.error ?? remove.error) && <ErrorNote error={restoring.restore.error ?? remove.error} />}
        <SavingTrouble
          kind="passage"
          saving={autosave.saving}
          onKeepMine={autosave.keepMine}
          onTakeTheirs={async () => {
            await autosave.takeTheirs()
            onAnew()
          }}
        />
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
              if (event.target.value.trim()) autosave.change({ name: event.target.value })
            }}
          />
          <SavedNote saving={autosave.saving} />
          <StepThrough on={restoring} />
          <button
            type="button"
            className="quiet-word !text-xs"
            aria-expanded={view.versions}
            onClick={() => onView({ versions: !view.versions })}
          >
            Versions
          </button>
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
              onClick={() => onView({ language: code })}
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
                  onView({ language: String(code) })
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
                onView({ language: ANY })
                keep(rest)
              }}
            >
              Take {words(language)} out
            </button>
          )}
        </div>
        {view.versions && (
          <div className="mb-4">
            <VersionsPane on={restoring} />
          </div>
        )}
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
