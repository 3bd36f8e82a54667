import { useState } from 'react'
import type { Shape } from '../../api/client'
import { SaveFilter } from '../people/acting/SaveFilter'
import { EVERYBODY, fromCondition, type Group, saidBy } from '../people/asking/conditions'
import { Sentence } from '../people/asking/Sentence'

type Audience = Shape<'Audience'>

/** Everybody who fits a sentence that is said here; it can be kept as a filter. Nobody is meant by it until it is finished. */
export function OwnSentence({
  condition,
  open = false,
  onChange,
  onFilter,
}: {
  condition: Audience['condition']
  /** One begins with it, though nothing is said yet. */
  open?: boolean
  onChange: (condition: Audience['condition']) => void
  onFilter: (id: number) => void
}) {
  const [sentence, setSentence] = useState(() => (condition ? fromCondition(condition) : open ? EVERYBODY : null))
  const [naming, setNaming] = useState(false)
  const said = sentence && saidBy(sentence)
  const say = (next: Group | null) => {
    setSentence(next)
    onChange((next && saidBy(next)) ?? undefined)
  }
  if (!sentence)
    return (
      <p className="col-span-2">
        <button type="button" className="btn btn-sm btn-plain" onClick={() => setSentence(EVERYBODY)}>
          Say in a sentence who it is…
        </button>
      </p>
    )
  return (
    <div className="col-span-2">
      <Sentence sentence={sentence} onChange={say} />
      <p className="flex gap-4 mt-1">
        <span className="muted grow">
          {!said && (condition ? sentence.parts.length === 0 && 'It means everybody.' : 'It means nobody until it is finished.')}
        </span>
        {said && (
          <button type="button" className="quiet-word" onClick={() => setNaming(true)}>
            Keep it as a filter…
          </button>
        )}
        <button type="button" className="quiet-word" onClick={() => say(null)}>
          Take this sentence out
        </button>
      </p>
      {naming && said && (
        <SaveFilter
          condition={said}
          changing={null}
          onClose={() => setNaming(false)}
          onSaved={(filter) => {
            setNaming(false)
            // One that only its owner sees is not for a sequence; the sentence stays as it is.
            if (!filter.shared) return
            setSentence(null)
            onFilter(filter.id)
          }}
        />
      )}
    </div>
  )
}
