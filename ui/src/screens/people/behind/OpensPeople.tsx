import { type ReactNode, useState } from 'react'
import { type LoadPeople, PeopleBehind } from './PeopleBehind'

/** A number that opens the people behind it; nobody is behind nought. */
export function OpensPeople({
  title,
  count,
  children,
  load,
  queryKey,
  letters,
  className = 'font-semibold hover:underline min-h-6',
}: {
  title: string
  count: number
  children: ReactNode
  load: LoadPeople
  queryKey: unknown[]
  letters?: number
  className?: string
}) {
  const [open, setOpen] = useState(false)
  if (count === 0) return <span className="muted">{children}</span>
  return (
    <>
      <button type="button" className={className} onClick={() => setOpen(true)}>
        {children}
      </button>
      {open && <PeopleBehind title={title} letters={letters} queryKey={queryKey} load={load} onClose={() => setOpen(false)} />}
    </>
  )
}
