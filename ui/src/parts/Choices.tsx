import { useState } from 'react'

export type Choice = { value: string | number; words: string }

/** A list to tick in, with a box to narrow it; `typed` lets people enter a word that is not in it. */
export function Choices({
  options,
  chosen,
  onChange,
  typed = false,
  label,
}: {
  options: Choice[]
  chosen: (string | number)[]
  onChange: (values: (string | number)[]) => void
  typed?: boolean
  label: string
}) {
  const [words, setWords] = useState('')
  const shown = options.filter((option) => option.words.toLowerCase().includes(words.toLowerCase()))
  const all = [
    ...shown,
    ...chosen
      .filter((value) => !options.some((option) => option.value === value))
      .map((value) => ({ value, words: String(value) })),
  ]
  const toggle = (value: string | number) =>
    onChange(chosen.includes(value) ? chosen.filter((one) => one !== value) : [...chosen, value])
  return (
    <div>
      {(options.length > 7 || typed) && (
        <input
          className="text-field mb-2"
          placeholder={typed ? 'Find or type one' : 'Find'}
          aria-label={`Find in ${label}`}
          value={words}
          onChange={(event) => setWords(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return
            const taken = shown[0]?.value ?? (typed && words.trim() ? words.trim() : null)
            if (taken === null) return
            toggle(taken)
            setWords('')
          }}
        />
      )}
      {all.map((option) => (
        <label key={option.value} className="flex items-center gap-2 px-1 py-1 hover:bg-base-200 rounded-sm cursor-pointer">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={chosen.includes(option.value)}
            onChange={() => toggle(option.value)}
          />
          {option.words}
        </label>
      ))}
      {all.length === 0 && <p className="muted px-1 py-1">{typed ? 'Press Enter to use this word.' : 'Nothing of that name.'}</p>}
    </div>
  )
}
