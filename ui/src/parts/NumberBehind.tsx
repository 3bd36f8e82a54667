import { type ReactNode, useState } from 'react'

/** A number that opens what it counts; nothing is behind nought. */
export function NumberBehind({
  count,
  children,
  behind,
  className = 'font-semibold hover:underline min-h-6',
}: {
  count: number
  children: ReactNode
  behind: (close: () => void) => ReactNode
  className?: string
}) {
  const [open, setOpen] = useState(false)
  if (count === 0) return <span className="muted">{children}</span>
  return (
    <>
      <button type="button" className={className} onClick={() => setOpen(true)}>
        {children}
      </button>
      {open && behind(() => setOpen(false))}
    </>
  )
}
