import type { ReactNode } from 'react'
import { NumberBehind } from '../../../parts/NumberBehind'
import { type LoadPeople, PeopleBehind } from './PeopleBehind'

/** A number that opens the people behind it. */
export function OpensPeople({
  title,
  count,
  children,
  load,
  queryKey,
  letters,
  className,
}: {
  title: string
  count: number
  children: ReactNode
  load: LoadPeople
  queryKey: unknown[]
  letters?: number
  className?: string
}) {
  return (
    <NumberBehind
      count={count}
      className={className}
      behind={(close) => <PeopleBehind title={title} letters={letters} queryKey={queryKey} load={load} onClose={close} />}
    >
      {children}
    </NumberBehind>
  )
}
