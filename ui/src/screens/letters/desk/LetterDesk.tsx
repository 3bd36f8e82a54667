import { useQuery, useQueryClient } from '@tanstack/react-query'
import type { JSONContent } from '@tiptap/react'
import { type ReactNode, useEffect, useMemo, useRef, useState } from 'react'
import { useLocation } from 'react-router'
import type { Shape } from '../../../api/client'
import { inTheWay } from '../../../app/away'
import { useKeys } from '../../../app/keys'
import { useCatalogue } from '../../../app/useCatalogue'
import { Header } from '../../../parts/Header'
import { Segments } from '../../../parts/Segments'
import { ErrorNote, Loading } from '../../../parts/States'
import { offered } from '../editor/fields'
import { putBlocks } from '../editor/putBlocks'
import { WritingContext } from '../editor/writing'
import { LetterMenu } from '../library/LetterMenu'
import { useLetters } from '../library/useLetters'
import { TestNote, useSendTest } from '../reading/TestNote'
import { useLetterAudience } from '../reading/useLetterAudience'
import type { Draft } from '../saving/draft'
import { LETTERS } from '../saving/kept'
import { SavedNote } from '../saving/SavedNote'
import { SavingTrouble } from '../saving/SavingTrouble'
import { StepThrough } from '../saving/StepThrough'
import { useAutosave } from '../saving/useAutosave'
import { useLeftOver } from '../saving/useLeftOver'
import { useRestoring } from '../saving/useRestoring'
import { WriteThis } from '../sending/WriteThis'
import { Beside, type View } from './Beside'
import { jumpTo } from './jump'
import { LetterAbout } from './LetterAbout'
import { NameField } from './NameField'
import { InUse, Others } from './Notices'
import { usePresence } from './usePresence'
import { type Desk, WritingDesk } from './WritingDesk'

type Letter = Shape<'Letter'>

/** What stands around a letter that is sent from its desk. */
export type Around = {
  sequenceId: number
  /** Beside the name. */
  state: ReactNode
  /** At the right of the name, given what saves the letter and answers whether it is saved. */
  actions: (saved: () => Promise<boolean>) => ReactNode
  /** Between the name and the paper, given whether what was typed is saved. */
  line: (settled: boolean) => ReactNode
  /** Below the letter as they read it, given the same. */
  below: (settled: boolean, saved: () => Promise<boolean>) => ReactNode
  over: { to: string; words: string }
  /** Beside what puts fields and blocks in. */
  tools?: ReactNode
  /** It is on its way: nothing can be written for now. */
  locked?: boolean
  /** Has another letter in its place. */
  onLetter?: (id: number) => void
  /** The cursor begins in an empty subject. */
  writes: boolean
}

function Writing({
  letter,
  begin,
  fields,
  presence,
  view,
  onView,
  onAnew,
  around,
}: {
  letter: Letter
  begin: Draft | null
  fields: Shape<'Field'>[]
  presence: ReturnType<typeof usePresence>
  view: View
  onView: (changed: Partial<View>) => void
  onAnew: () => void
  around?: Around
}) {
  const autosave = useAutosave(LETTERS, letter, begin, (theirs, draft) => show({ ...theirs, ...draft }))
  const { saving, change, flush, keepMine, takeTheirs, unsaved, version } = autosave
  const restoring = useRestoring(LETTERS, letter.id, autosave, onAnew)
  const [first] = useState(() => ({ ...letter, ...begin }))
  const [manner, setManner] = useState(first.manner)
  const [about, setAbout] = useState({ category: first.category, language: first.language, about: first.about })
  const desk = useRef<Desk>({ subject: null, preview: null, body: null })
  const client = useQueryClient()
  const sequenceId = around?.sequenceId
  // What a colleague wrote comes into what stands here.
  const show = (merged: Letter) => {
    for (const part of ['subject', 'preview', 'body'] as const) {
      const editor = desk.current[part]
      if (editor) putBlocks(editor, merged[part] as JSONContent)
    }
    setManner(merged.manner)
    setAbout({ category: merged.category, language: merged.language, about: merged.about })
  }
  const { others, newest } = presence
  const audience = useLetterAudience(letter, sequenceId)
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
  const testing = useSendTest(letter.id, flush)
  const test = () => {
    const reader = client.getQueryData<Shape<'Merged'>>(['preview', letter.id, view.personId, sequenceId])
    if (reader) testing.test(reader)
  }
  useKeys([
    { key: 't', words: 'Send a test to yourself', run: test },
    { key: 'alt+t', words: 'Send a test to yourself', whileTyping: true, run: test },
  ])
  // People who came from a step of a sequence go back there.
  const back = (useLocation().state as { back?: { to: string; words: string } } | null)?.back
  const settled = saving.state === 'saved'
  return (
    <WritingContext.Provider value={writing}>
      <Header
        over={back ?? around?.over ?? { to: '/letters', words: 'Letters' }}
        title={<NameField name={letter.name} onChange={(name) => change({ name })} />}
        aside={
          <>
            {around?.state}
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
            <button type="button" className="btn btn-sm btn-plain" onClick={test}>
              Send a test
            </button>
            {around ? around.actions(flush) : <WriteThis letter={letter} />}
          </>
        }
      />
      {around?.line(settled)}
      <TestNote letterId={letter.id} on={testing} />
      <InUse letter={letter} sequenceId={sequenceId} onCopied={around?.onLetter} />
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
      <div className="grid grid-cols-[minmax(0,1fr)_min(400px,38%)] gap-7 items-start">
        <WritingDesk
          letter={letter}
          first={first}
          manner={manner}
          about={about.about}
          desk={desk}
          writes={around?.writes ?? false}
          tools={around?.tools}
          locked={around?.locked ?? false}
          onChange={change}
        />
        <Beside
          letter={letter}
          sequenceId={sequenceId}
          view={view}
          onView={onView}
          restoring={restoring}
          onSetAside={(set_aside) => change({ set_aside })}
          onJump={(advice) => {
            const editor = advice.part === 'firm' ? null : desk.current[advice.part]
            if (editor) jumpTo(editor, advice.excerpt)
          }}
          below={around?.below(settled, flush)}
        />
      </div>
    </WritingContext.Provider>
  )
}

/** Writing a letter, with a real person’s copy beside it; and what sends it, where it stands on its own. */
export function LetterDesk({ id, around }: { id: number; around?: Around }) {
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
  if (inTheWay(error, letter)) return <ErrorNote error={error} retry={refetch} />
  if (inTheWay(leftOver.error, leftOver.data)) return <ErrorNote error={leftOver.error} retry={leftOver.refetch} />
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
      around={around}
    />
  )
}
