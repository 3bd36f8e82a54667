import { useState } from 'react'
import type { Shape } from '../../../api/client'
import { Modal } from '../../../parts/Modal'
import { EVERYBODY, fromCondition, saidBy } from '../../people/asking/conditions'
import { Sentence } from '../../people/asking/Sentence'

/** Asks for a condition, in the sentence that everything about people is asked in. */
export function ConditionDialog({
  title,
  condition,
  keep,
  onKeep,
  onClose,
}: {
  title: string
  condition: Shape<'Condition'> | null
  /** The words of the button that keeps it. */
  keep: string
  onKeep: (condition: Shape<'Condition'>) => void
  onClose: () => void
}) {
  const [sentence, setSentence] = useState(() => (condition ? fromCondition(condition) : EVERYBODY))
  const asked = saidBy(sentence)
  return (
    <Modal wide title={title} onClose={onClose}>
      <Sentence sentence={sentence} onChange={setSentence} />
      <div className="flex justify-end gap-2 mt-4">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Not now
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={!asked}
          title={asked ? undefined : 'Finish the sentence first'}
          onClick={() => {
            if (asked) onKeep(asked)
            onClose()
          }}
        >
          {keep}
        </button>
      </div>
    </Modal>
  )
}
