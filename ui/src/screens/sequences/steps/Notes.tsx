import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { ErrorNote } from '../../../parts/States'
import { useTyped } from '../../../parts/useTyped'

type Note = Shape<'PlanNote'>

/** Notes in the margin, for colleagues: of one step, or of the whole plan. */
export function Notes({ sequence, stepId }: { sequence: Shape<'Sequence'>; stepId: number | null }) {
  const client = useQueryClient()
  const [text, setText] = useState<string | null>(null)
  const again = () => client.invalidateQueries({ queryKey: ['sequence', sequence.id] })
  const write = useMutation({
    mutationFn: (words: string) =>
      ask(
        api.POST('/api/sequences/{id}/notes', { params: { path: { id: sequence.id } }, body: { text: words, step_id: stepId } }),
      ),
    onSuccess: () => {
      setText(null)
      again()
    },
  })
  const notes = sequence.notes.filter((note) => (note.step_id ?? null) === stepId)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (text?.trim()) write.mutate(text.trim())
  }
  return (
    <section aria-label="Notes" className={stepId ? 'mt-4 border-t border-base-300 pt-3' : 'mb-3'}>
      {notes.map((note) => (
        <OneNote key={note.id} note={note} onDone={again} />
      ))}
      {text === null ? (
        <button
          type="button"
          className="muted text-xs underline decoration-dotted underline-offset-2 min-h-6"
          onClick={() => setText('')}
        >
          {stepId ? 'Write a note to colleagues' : 'Write a note on this plan'}
        </button>
      ) : (
        <form onSubmit={submit} className="bg-[var(--personal)] border-l-2 border-accent px-3 py-2">
          {write.error && <ErrorNote error={write.error} />}
          <textarea
            // biome-ignore lint/a11y/noAutofocus: it opens on a click, to be typed into
            autoFocus
            rows={2}
            aria-label="A note to colleagues"
            className="textarea w-full bg-[var(--sheet)] text-sm"
            maxLength={2000}
            value={text}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Escape') setText(null)
              if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) submit(event)
            }}
          />
          <span className="flex justify-end gap-2 mt-1">
            <button type="button" className="btn btn-xs btn-plain" onClick={() => setText(null)}>
              Leave it
            </button>
            <button type="submit" className="btn btn-xs btn-primary" disabled={!text.trim() || write.isPending}>
              Write it down
            </button>
          </span>
        </form>
      )}
    </section>
  )
}

function OneNote({ note, onDone }: { note: Note; onDone: () => void }) {
  const words = useTyped(note.text)
  const path = { params: { path: { id: note.id } } }
  const change = useMutation({
    mutationFn: (text: string) => ask(api.PATCH('/api/plan-notes/{id}', { ...path, body: { text, version: note.version } })),
    onSuccess: onDone,
  })
  const drop = useMutation({ mutationFn: () => ask(api.DELETE('/api/plan-notes/{id}', path)), onSuccess: onDone })
  return (
    <div className="bg-[var(--personal)] border-l-2 border-accent px-3 py-1.5 mb-2 text-[13px]">
      {(change.error ?? drop.error) && <ErrorNote error={change.error ?? drop.error} />}
      <textarea
        aria-label="A note"
        className="w-full bg-transparent resize-none !outline-none field-sizing-content"
        maxLength={2000}
        value={words.text}
        onChange={(event) => words.type(event.target.value)}
        onBlur={() => {
          if (words.text.trim() && words.text.trim() !== note.text) change.mutate(words.text.trim())
          else words.putBack()
        }}
      />
      <span className="flex justify-between text-xs muted">
        <span>{note.by}</span>
        <button type="button" aria-label="Take the note away" onClick={() => drop.mutate()}>
          take away
        </button>
      </span>
    </div>
  )
}
