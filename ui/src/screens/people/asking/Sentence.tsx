import type { Group } from './conditions'
import { SentenceGroup } from './SentenceGroup'
import { useAskable } from './useAskable'

/** The condition as a sentence; the underlined words open their choices. */
export function Sentence({ sentence, onChange }: { sentence: Group; onChange: (sentence: Group) => void }) {
  const catalogue = useAskable()
  if (!catalogue) return <div className="skeleton h-16" />
  return (
    <div
      className="bg-[var(--sheet)] border border-base-300 rounded-sm px-4 py-2.5 font-serif text-[17px] leading-9"
      role="group"
      aria-label="Condition"
    >
      Everyone <SentenceGroup group={sentence} catalogue={catalogue} subject="person" onChange={onChange} />
    </div>
  )
}
