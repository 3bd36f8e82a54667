import { useState } from 'react'
import { Popover } from '../../../parts/Popover'
import { entries, fresh, typed } from './asking'
import type { Test } from './conditions'
import { useAskable } from './useAskable'

/** A menu of everything one can ask about; typing narrows it, and "leads in York" is taken as it stands. */
export function AskAbout({
  words,
  label,
  subject,
  onPick,
}: {
  words: string
  label: string
  subject: 'person' | 'deal'
  onPick: (tests: Test[]) => void
}) {
  return (
    <Popover words={words} label={label} className="quiet-word">
      {(shut) => (
        <Menu
          subject={subject}
          onPick={(tests) => {
            onPick(tests)
            shut()
          }}
        />
      )}
    </Popover>
  )
}

function Menu({ subject, onPick }: { subject: 'person' | 'deal'; onPick: (tests: Test[]) => void }) {
  const catalogue = useAskable()
  const [words, setWords] = useState('')
  if (!catalogue) return null
  const whole = typed(catalogue, words)
  const wanted = words.toLowerCase().trim()
  const found = entries(catalogue, subject).filter((one) => one.words.toLowerCase().includes(wanted))
  const shown = whole ? [whole, ...found] : found
  const pick = (entry: (typeof shown)[number]) => onPick(entry.tests ?? [fresh(catalogue, entry.key)])
  return (
    <div className="w-[26rem]">
      <input
        className="text-field mb-2"
        placeholder="Type, for example: leads in York"
        aria-label="What to ask about"
        value={words}
        onChange={(event) => setWords(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== 'Enter' || !shown[0]) return
          // The focus goes back to the word that opened this; it must not be pressed by the same key.
          event.preventDefault()
          pick(shown[0])
        }}
      />
      <ul className="columns-2 gap-4">
        {shown.map((entry, i) => (
          <li key={entry.key} className="break-inside-avoid">
            {entry.group !== shown[i - 1]?.group && <p className="field-label !mb-0 mt-1 px-1.5">{entry.group}</p>}
            <button
              type="button"
              className="w-full text-left px-1.5 py-0.5 min-h-6 rounded-sm hover:bg-base-200"
              onClick={() => pick(entry)}
            >
              {entry.words}
            </button>
          </li>
        ))}
      </ul>
      {shown.length === 0 && <p className="muted px-1.5">Nothing of that name can be asked about.</p>}
    </div>
  )
}
