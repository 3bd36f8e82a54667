import { classes } from './classes'
import { useTyped } from './useTyped'

/** A name that is changed in place. */
export function NameInPlace({ name, label, onSave }: { name: string; label: string; onSave: (name: string) => void }) {
  const { text, type, leave, putBack } = useTyped(name)
  return (
    <input
      className={classes(
        'w-full h-7 px-1 font-semibold rounded-sm bg-transparent border border-transparent hover:border-base-300',
        'focus:border-primary focus:bg-[var(--sheet)]',
      )}
      aria-label={label}
      value={text}
      onChange={(event) => type(event.target.value)}
      onBlur={() => {
        if (!text.trim() || text.trim() === name) return putBack()
        leave()
        onSave(text.trim())
      }}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur()
        if (event.key === 'Escape') putBack()
      }}
    />
  )
}
