import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask } from '../../../api/client'
import { ErrorNote } from '../../../parts/States'
import { useCopy } from '../library/LetterMenu'
import { NewLetter } from '../library/NewLetter'
import { useLetters } from '../library/useLetters'
import { LETTERS } from '../saving/kept'

function OfLibrary({
  id,
  name,
  subject,
  onLetter,
}: {
  id: number
  name: string
  subject: string
  onLetter: (id: number) => void
}) {
  const copy = useCopy(id, onLetter)
  return (
    <li className="flex items-baseline gap-3 border-b border-base-300/60 py-1">
      <span className="font-semibold truncate max-w-56">{name}</span>
      <span className="muted truncate grow">{subject}</span>
      <button type="button" className="word whitespace-nowrap" onClick={() => copy.mutate()}>
        A copy
      </button>
      <button type="button" className="quiet-word whitespace-nowrap" onClick={() => onLetter(id)}>
        The letter itself
      </button>
    </li>
  )
}

/** What a letter can begin with: one of the library, a starter, a file, or an empty designed one. */
export function BeginWith({
  letterId,
  onLetter,
  onClose,
}: {
  /** The letter it takes the place of; nobody needs it any more if nothing was written in it. */
  letterId: number
  onLetter: (id: number) => Promise<unknown>
  onClose: () => void
}) {
  const client = useQueryClient()
  const [words, setWords] = useState('')
  const { data: letters } = useLetters(words, false)
  const { data: before } = useQuery({ queryKey: ['letter', letterId], queryFn: () => LETTERS.read(letterId) })
  const take = useMutation({
    mutationFn: async (id: number) => {
      await onLetter(id)
      const elsewhere = before?.used_in.length !== 1
      if (before?.version === 1 && !before.named && !elsewhere)
        await ask(api.DELETE('/api/letters/{id}', { params: { path: { id: letterId } } }))
    },
    onSuccess: () => {
      client.invalidateQueries({ queryKey: ['letters'] })
      onClose()
    },
  })
  const found = (letters ?? []).filter((one) => one.id !== letterId)
  return (
    <NewLetter title="Begin with…" onMade={take.mutate} onClose={onClose}>
      {take.error && <ErrorNote error={take.error} />}
      <section className="mb-5">
        <input
          className="text-field mb-1"
          aria-label="A letter of the library"
          placeholder="A letter of the library"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
        <ul className="max-h-56 overflow-auto">
          {found.map((one) => (
            <OfLibrary key={one.id} id={one.id} name={one.name} subject={one.subject} onLetter={take.mutate} />
          ))}
        </ul>
        {letters && found.length === 0 && <p className="muted text-xs mt-1">No letter has these words.</p>}
      </section>
    </NewLetter>
  )
}
