import { useEffect, useState } from 'react'
import { classes } from '../../../parts/classes'

/** The title of the letter, typed in place; until somebody types one it follows the subject. */
export function NameField({ name, onChange }: { name: string; onChange: (name: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null)
  useEffect(() => {
    if (typed === name) setTyped(null)
  }, [typed, name])
  return (
    <input
      aria-label="Name of the letter"
      className={classes(
        'as-wide-as-its-words bg-transparent truncate border-b border-transparent hover:border-base-300',
        'focus:border-primary !outline-none',
      )}
      value={typed ?? name}
      maxLength={160}
      onChange={(event) => {
        setTyped(event.target.value)
        if (event.target.value.trim()) onChange(event.target.value)
      }}
      onBlur={() => typed !== null && !typed.trim() && setTyped(null)}
    />
  )
}
