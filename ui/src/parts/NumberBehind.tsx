import { type ReactNode, useState } from 'react'

const ROW = 'inline-block leading-6'

/** A number that opens what it counts; nothing is behind nought. */
export function NumberBehind({
  count,
  children,
  behind,
  className = `font-semibold hover:underline ${ROW}`,
}: {
  count: number
  children: ReactNode
  behind: (close: () => void) => ReactNode
  className?: string
}) {
  const [open, setOpen] = useState(false)
  // It stands on the line of those beside it.
  if (count === 0) return <span className={`muted ${className.includes(ROW) ? ROW : ''}`}>{children}</span>
  return (
    <>
      <button type="button" className={className} onClick={() => setOpen(true)}>
        {children}
      </button>
      {open && behind(() => setOpen(false))}
    </>
  )
}
