import { useQuery, useQueryClient } from '@tanstack/react-query'
import type { Editor } from '@tiptap/react'
import { useMemo, useState } from 'react'
import { useParams } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { clock } from '../../app/format'
import { useSession } from '../../app/session'
import { useCatalogue } from '../../app/useCatalogue'
import { Header } from '../../parts/Header'
import { InboxLine, LetterSheet } from '../../parts/LetterView'
import { ErrorNote, Loading } from '../../parts/States'
import { FieldsContext } from './fields'
import { EditorTools, LetterEditor } from './LetterEditor'
import { useAutosave } from './useAutosave'

function Preview({ letterId }: { letterId: number }) {
  const [n, setN] = useState(0)
  const { data: people } = useQuery({
    queryKey: ['people', 'for-preview'],
    queryFn: async () =>
      (await ask(api.POST('/api/people/search', { body: { limit: 40 } }))).people.filter((person) => person.email),
  })
  const person = people?.[n % Math.max(1, people.length)]
  const { data, error } = useQuery({
    queryKey: ['preview', letterId, person?.id],
    queryFn: () =>
      ask(api.GET('/api/letters/{id}/preview', { params: { path: { id: letterId }, query: { person_id: person?.id } } })),
    enabled: Boolean(person),
    placeholderData: (before) => before,
  })
  if (error) return <ErrorNote error={error} />
  if (!data) return <Loading />
  return (
    <div>
      <p className="flex items-center gap-2 mb-2 text-xs">
        <span className="grow">
          Reads like this to <strong className="font-semibold">{data.person}</strong>
          {person?.company && <span className="muted">, {person.company}</span>}
        </span>
        <button
          type="button"
          className="btn btn-xs btn-plain"
          onClick={() => setN(n + (people?.length ?? 1) - 1)}
          aria-label="Somebody before"
        >
          ‹
        </button>
        <button type="button" className="btn btn-xs btn-plain" onClick={() => setN(n + 1)} aria-label="Somebody else">
          ›
        </button>
      </p>
      <div className="mb-2">
        <InboxLine letter={data} />
      </div>
      <LetterSheet letter={data} />
    </div>
  )
}

function Writing({ letter, fields }: { letter: Shape<'Letter'>; fields: Shape<'Field'>[] }) {
  const { firm } = useSession()
  const client = useQueryClient()
  const { saving, change, keepMine } = useAutosave(letter)
  const [name, setName] = useState(letter.name)
  const [editor, setEditor] = useState<Editor | null>(null)
  // The editors hold the text from here on; what comes back from saving must not be typed over.
  const [first] = useState({ subject: letter.subject, preview: letter.preview, body: letter.body })
  const problem = saving.state === 'problem' ? saving.problem : null
  return (
    <FieldsContext.Provider value={fields}>
      <Header
        over={{ to: '/letters', words: 'Letters' }}
        title={
          <input
            aria-label="Name of the letter"
            className="as-wide-as-its-words bg-transparent truncate border-b border-transparent hover:border-base-300 focus:border-primary !outline-none"
            value={name}
            onChange={(event) => {
              setName(event.target.value)
              if (event.target.value.trim()) change({ name: event.target.value })
            }}
          />
        }
        aside={
          <span className="muted text-xs" role="status">
            {saving.state === 'saved'
              ? `Saved ${clock(saving.at, firm.time_zone)}`
              : saving.state === 'typing'
                ? 'Saving…'
                : 'Not saved'}
          </span>
        }
      />
      {letter.running_in.length > 0 && (
        <p className="border-l-2 border-accent bg-[var(--personal)] px-3 py-2 mb-3">
          In use: {letter.running_in.map((one) => one.name).join(', ')}. Letters not sent yet go out with what you write here.
        </p>
      )}
      {problem && (
        <div>
          <ErrorNote error={problem} />
          {problem.code === 'changed_meanwhile' && (
            <p className="mb-3 flex gap-2">
              <button
                type="button"
                className="btn btn-xs btn-plain"
                onClick={() => client.invalidateQueries({ queryKey: ['letter', letter.id] }).then(() => window.location.reload())}
              >
                Show theirs
              </button>
              <button type="button" className="btn btn-xs btn-plain" onClick={keepMine}>
                Keep mine
              </button>
            </p>
          )}
        </div>
      )}
      <div className="grid grid-cols-[minmax(0,1fr)_420px] gap-8 items-start">
        <div>
          <p className="field-label">Subject</p>
          <div className="bg-[var(--sheet)] border border-base-300 rounded-sm px-3 py-2 mb-3 text-[15px]">
            <LetterEditor
              line
              label="Subject"
              document={first.subject}
              placeholder="What the inbox shows first"
              onChange={(subject) => change({ subject: subject as Shape<'Document'> })}
            />
          </div>
          <p className="field-label">Preview line</p>
          <div className="bg-[var(--sheet)] border border-base-300 rounded-sm px-3 py-2 mb-4">
            <LetterEditor
              line
              label="Preview line"
              document={first.preview}
              placeholder="What stands beside the subject"
              onChange={(preview) => change({ preview: preview as Shape<'Document'> })}
            />
          </div>
          <EditorTools editor={editor} />
          <div className="sheet letter-text px-9 py-7">
            <LetterEditor
              label="Text of the letter"
              document={first.body}
              placeholder="Dear… Type {{ and a field’s name, or pick one above."
              onEditor={setEditor}
              onChange={(body) => change({ body: body as Shape<'Document'> })}
            />
          </div>
          <p className="muted text-xs mt-3">
            The signature of whoever it comes from, the firm’s address and the way out are put below it by themselves.
          </p>
        </div>
        <Preview letterId={letter.id} />
      </div>
    </FieldsContext.Provider>
  )
}

/** Writing a letter, with a real person’s copy beside it. */
export function LetterScreen() {
  const id = Number(useParams().id)
  const { data: catalogue } = useCatalogue()
  const {
    data: letter,
    error,
    refetch,
  } = useQuery({
    queryKey: ['letter', id],
    queryFn: () => ask(api.GET('/api/letters/{id}', { params: { path: { id } } })),
    staleTime: 30_000,
  })
  const fields = useMemo(() => catalogue?.fields.filter((field) => field.uses.includes('merge')) ?? [], [catalogue])
  if (error) return <ErrorNote error={error} retry={refetch} />
  if (!letter || fields.length === 0) return <Loading />
  return <Writing key={letter.id} letter={letter} fields={fields} />
}
