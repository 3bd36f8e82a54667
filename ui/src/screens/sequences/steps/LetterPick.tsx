import { useDeferredValue, useState } from 'react'
import { useFirst } from '../../../app/useFirst'
import { classes } from '../../../parts/classes'
import { LetterFrame } from '../../../parts/LetterFrame'
import { Modal } from '../../../parts/Modal'
import { Empty, ErrorNote, Loading } from '../../../parts/States'
import { useLetters } from '../../letters/library/useLetters'

/** The letters of the firm, searched, each shown as somebody would get it; one is taken, or begins a new one. */
export function LetterPick({
  chosen,
  onPick,
  onCopy,
  onNew,
  onClose,
}: {
  chosen: number | null
  onPick: (id: number) => void
  onCopy: (id: number) => void
  onNew: () => void
  onClose: () => void
}) {
  const [words, setWords] = useState('')
  const asked = useDeferredValue(words.trim())
  const { data, error, isPlaceholderData } = useLetters(asked, false)
  const [at, setAt] = useState(chosen)
  const letters = data ?? []
  const shown = letters.find((letter) => letter.id === at) ?? letters[0]
  // What was found for the words before is not what is meant.
  const { takeFirst, forget } = useFirst(asked === words.trim() && !isPlaceholderData ? shown : undefined, (letter) =>
    onPick(letter.id),
  )
  const step = (by: number) => {
    const next = letters[letters.findIndex((letter) => letter.id === shown?.id) + by]
    if (next) setAt(next.id)
  }
  return (
    <Modal wide title="Which letter?" onClose={onClose}>
      <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1.25fr)] gap-5">
        <div>
          <input
            type="search"
            data-first
            className="text-field"
            aria-label="Find a letter"
            placeholder="A word in name or text"
            value={words}
            onChange={(event) => {
              forget()
              setWords(event.target.value)
            }}
            onKeyDown={(event) => {
              if (event.key === 'ArrowDown') step(1)
              else if (event.key === 'ArrowUp') step(-1)
              else if (event.key === 'Enter') takeFirst()
              else return
              event.preventDefault()
            }}
          />
          {error && <ErrorNote error={error} />}
          {!data && !error && <Loading lines={4} />}
          {data?.length === 0 && <Empty>No letter has these words.</Empty>}
          <ul className="mt-2 max-h-[360px] overflow-y-auto" aria-label="Letters">
            {letters.map((letter) => (
              <li key={letter.id}>
                <button
                  type="button"
                  aria-pressed={letter.id === shown?.id}
                  className={classes(
                    'block w-full text-left px-2 py-1 border-b border-base-300/60 border-l-[3px]',
                    letter.id === shown?.id ? 'border-l-primary bg-base-200' : 'border-l-transparent hover:bg-base-200',
                  )}
                  onClick={() => setAt(letter.id)}
                  onDoubleClick={() => onPick(letter.id)}
                >
                  <span className="font-serif text-base block truncate">{letter.name}</span>
                  <span className="muted text-xs block truncate">{letter.subject || 'no subject yet'}</span>
                </button>
              </li>
            ))}
          </ul>
          <button type="button" className="btn btn-sm btn-plain mt-3" onClick={onNew}>
            Write a new one…
          </button>
        </div>
        <div className="min-w-0">
          {shown && (
            <>
              <p className="font-semibold truncate mb-1">{shown.subject}</p>
              <div className="max-h-[380px] overflow-y-auto">
                <LetterFrame key={shown.id} width={420} src={`/api/letters/${shown.id}/shown`} />
              </div>
            </>
          )}
        </div>
      </div>
      <div className="flex justify-end gap-2 mt-4">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Not now
        </button>
        {shown && (
          <>
            <button type="button" className="btn btn-sm btn-plain" onClick={() => onCopy(shown.id)}>
              Begin with a copy of it
            </button>
            <button type="button" className="btn btn-sm btn-primary" onClick={() => onPick(shown.id)}>
              Take this letter
            </button>
          </>
        )}
      </div>
    </Modal>
  )
}
