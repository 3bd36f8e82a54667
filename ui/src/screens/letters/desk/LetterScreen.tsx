import { useQuery, useQueryClient } from '@tanstack/react-query'
import type { JSONContent } from '@tiptap/react'
import { useEffect, useMemo, useRef, useState } from 'react'
import { useLocation, useParams } from 'react-router'
import type { Shape } from '../../../api/client'
import { useKeys } from '../../../app/keys'
import { useCatalogue } from '../../../app/useCatalogue'
import { classes } from '../../../parts/classes'
import { Header } from '../../../parts/Header'
import { Segments } from '../../../parts/Segments'
import { ErrorNote, Loading } from '../../../parts/States'
import { offered } from '../editor/fields'
import { putBlocks } from '../editor/putBlocks'
import { WritingContext } from '../editor/writing'
import { LetterMenu } from '../library/LetterMenu'
import { useLetters } from '../library/useLetters'
import { ChecksPane, useChecks } from '../reading/ChecksPane'
import { ReadAs } from '../reading/ReadAs'
import { TestDialog } from '../reading/TestDialog'
import { useLetterAudience } from '../reading/useLetterAudience'
import type { Draft } from '../saving/draft'
import { LETTERS } from '../saving/kept'
import { SavedNote } from '../saving/SavedNote'
import { SavingTrouble } from '../saving/SavingTrouble'
import { StepThrough } from '../saving/StepThrough'
import { useAutosave } from '../saving/useAutosave'
import { useLeftOver } from '../saving/useLeftOver'
import { useRestoring } from '../saving/useRestoring'
import { VersionsPane } from '../saving/VersionsPane'
import { jumpTo } from './jump'
import { LetterAbout } from './LetterAbout'
import { InUse, Others } from './Notices'
import { usePresence } from './usePresence'
import { type Desk, WritingDesk } from './WritingDesk'

type Letter = Shape<'Letter'>
/** What one looks at beside the letter; a version gone back to, or a colleague's change, leaves it as it is. */
type View = { pane: 'read' | 'checks' | 'versions'; personId: number | null }

/** The title of the letter, typed in place. */
function NameField({ name, onChange }: { name: string; onChange: (name: string) => void }) {
  const [typed, setTyped] = useState(name)
  return (
    <input
      aria-label="Name of the letter"
      className={classes(
        'as-wide-as-its-words bg-transparent truncate border-b border-transparent hover:border-base-300',
        'focus:border-primary !outline-none',
      )}
      value={typed}
      maxLength={160}
      onChange={(event) => {
        setTyped(event.target.value)
        if (event.target.value.trim()) onChange(event.target.value)
      }}
    />
  )
}

function Writing({
  letter,
  begin,
  fields,
  presence,
  view,
  onView,
  onAnew,
}: {
  letter: Letter
  begin: Draft | null
  fields: Shape<'Field'>[]
  presence: ReturnType<typeof usePresence>
  view: View
  onView: (changed: Partial<View>) => void
  onAnew: () => void
}) {
  const autosave = useAutosave(LETTERS, letter, begin, (theirs, draft) => show({ ...theirs, ...draft }))
  const { saving, change, keepMine, takeTheirs, unsaved, version } = autosave
  const restoring = useRestoring(LETTERS, letter.id, autosave, onAnew)
  const [first] = useState(() => ({ ...letter, ...begin }))
  const [manner, setManner] = useState(first.manner)
  const [about, setAbout] = useState({ category: first.category, language: first.language, about: first.about })
  const { pane, personId } = view
  const [testing, setTesting] = useState(false)
  const desk = useRef<Desk>({ subject: null, preview: null, body: null })
  const client = useQueryClient()
  // What a colleague wrote comes into what stands here.
  const [name, setName] = useState(first.name)
  const show = (merged: Letter) => {
    for (const part of ['subject', 'preview', 'body'] as const) {
      const editor = desk.current[part]
      if (editor) putBlocks(editor, merged[part] as JSONContent)
    }
    setName(merged.name)
    setManner(merged.manner)
    setAbout({ category: merged.category, language: merged.language, about: merged.about })
  }
  const { others, newest } = presence
  const audience = useLetterAudience(letter)
  const { data: checks } = useChecks(letter.id)
  const { data: letters } = useLetters('', false)
  const categories = useMemo(
    () => [...new Set((letters ?? []).map((one) => one.category).filter((one) => one != null))],
    [letters],
  )
  const writing = useMemo(
    () => ({ fields: offered(fields, about.about), manner, audience, within: 'letter' as const }),
    [fields, about.about, manner, audience],
  )
  useEffect(() => {
    if (newest > version() && !unsaved()) client.invalidateQueries({ queryKey: ['letter', letter.id] })
  }, [newest, version, unsaved, client, letter.id])
  // Another page wrote it meanwhile and nothing here is unsaved: theirs is shown.
  useEffect(() => {
    if (letter.version > version() && !unsaved()) onAnew()
  }, [letter.version, version, unsaved, onAnew])
  useKeys([{ key: 't', words: 'Send a test', run: () => setTesting(true) }])
  const preview = client.getQueryData<Shape<'Merged'>>(['preview', letter.id, personId])
  const remarks = checks?.advice.length ?? 0
  // Whoever came from a step of a sequence goes back there.
  const back = (useLocation().state as { back?: { to: string; words: string } } | null)?.back
  return (
    <WritingContext.Provider value={writing}>
      <Header
        over={back ?? { to: '/letters', words: 'Letters' }}
        title={<NameField key={name} name={name} onChange={(typed) => change({ name: typed })} />}
        aside={
          <>
            <SavedNote saving={saving} />
            <StepThrough on={restoring} />
            <LetterAbout
              letter={about}
              categories={categories}
              onChange={(draft) => {
                setAbout({ ...about, ...draft } as typeof about)
                change(draft)
              }}
            />
            <Others others={others} />
          </>
        }
        actions={
          <>
            <Segments
              label="Manner"
              chosen={manner}
              onChoose={(chosen) => {
                setManner(chosen)
                change({ manner: chosen })
              }}
              options={[
                { value: 'plain', words: 'Plain' },
                { value: 'designed', words: 'Designed' },
              ]}
            />
            <LetterMenu letter={letter} onChange={change} />
            <button type="button" className="btn btn-sm btn-primary" onClick={() => setTesting(true)}>
              Send a test
            </button>
          </>
        }
      />
      <InUse letter={letter} />
      {restoring.restore.error && <ErrorNote error={restoring.restore.error} />}
      <SavingTrouble
        kind="letter"
        saving={saving}
        onKeepMine={keepMine}
        onTakeTheirs={async () => {
          await takeTheirs()
          onAnew()
        }}
      />
      <div className="grid grid-cols-[minmax(0,1fr)_400px] gap-7 items-start">
        <WritingDesk letter={letter} first={first} manner={manner} about={about.about} desk={desk} onChange={change} />
        <aside aria-label="Looking at it" className="sticky top-0">
          <div className="mb-3">
            <Segments
              label="Beside the letter"
              chosen={pane}
              onChoose={(chosen) => onView({ pane: chosen })}
              options={[
                { value: 'read', words: 'As they read it' },
                { value: 'checks', words: remarks > 0 ? `Checks: ${remarks}` : 'Checks' },
                { value: 'versions', words: 'Versions' },
              ]}
            />
          </div>
          {pane === 'read' && (
            <ReadAs
              letterId={letter.id}
              version={letter.version}
              personId={personId}
              onPerson={(id) => onView({ personId: id })}
            />
          )}
          {pane === 'checks' && (
            <ChecksPane
              letter={letter}
              onSetAside={(set_aside) => change({ set_aside })}
              onJump={(advice) => {
                const editor = advice.part === 'firm' ? null : desk.current[advice.part]
                if (editor) jumpTo(editor, advice.excerpt)
              }}
            />
          )}
          {pane === 'versions' && <VersionsPane on={restoring} />}
        </aside>
      </div>
      {testing && preview && <TestDialog letterId={letter.id} person={preview} onClose={() => setTesting(false)} />}
    </WritingContext.Provider>
  )
}

/** Writing a letter, with a real person’s copy beside it. */
export function LetterScreen() {
  const id = Number(useParams().id)
  return <OneLetter key={id} id={id} />
}

function OneLetter({ id }: { id: number }) {
  const { data: catalogue } = useCatalogue()
  const [generation, setGeneration] = useState(0)
  const [view, setView] = useState<View>({ pane: 'read', personId: null })
  const {
    data: letter,
    error,
    refetch,
  } = useQuery({
    queryKey: ['letter', id],
    queryFn: () => LETTERS.read(id),
  })
  const leftOver = useLeftOver(LETTERS, id, letter)
  const presence = usePresence(letter?.id)
  if (error) return <ErrorNote error={error} retry={refetch} />
  if (leftOver.error) return <ErrorNote error={leftOver.error} retry={leftOver.refetch} />
  if (!letter || !catalogue || !leftOver.data) return <Loading />
  return (
    <Writing
      key={generation}
      letter={letter}
      begin={generation === 0 ? leftOver.data.draft : null}
      fields={catalogue.fields}
      presence={presence}
      view={view}
      onView={(changed) => setView((now) => ({ ...now, ...changed }))}
      onAnew={() => setGeneration((now) => now + 1)}
    />
  )
}
