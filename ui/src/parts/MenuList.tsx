import type { ReactNode } from 'react'
import { classes } from './classes'

/** Choices of a menu, one below the other. */
export function MenuList<Value>({
  items,
  chosen,
  onPick,
  className = 'w-56',
}: {
  items: { value: Value; words: ReactNode }[]
  /** Which of them it is now, where it is one of them. */
  chosen?: Value
  onPick: (value: Value) => void
  className?: string
}) {
  return (
    <ul className={className}>
      {items.map((item) => (
        <li key={String(item.value)}>
          <button
            type="button"
            aria-pressed={chosen === undefined ? undefined : item.value === chosen}
            className={classes(
              'block w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200',
              item.value === chosen && 'font-semibold text-primary',
            )}
            onClick={() => onPick(item.value)}
          >
            {item.words}
          </button>
        </li>
      ))}
    </ul>
  )
}
