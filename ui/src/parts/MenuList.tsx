import type { ReactNode } from 'react'

/** Choices of a menu, one below the other. */
export function MenuList<Value>({
  items,
  onPick,
  className = 'w-56',
}: {
  items: { value: Value; words: ReactNode }[]
  onPick: (value: Value) => void
  className?: string
}) {
  return (
    <ul className={className}>
      {items.map((item) => (
        <li key={String(item.value)}>
          <button
            type="button"
            className="block w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200"
            onClick={() => onPick(item.value)}
          >
            {item.words}
          </button>
        </li>
      ))}
    </ul>
  )
}
