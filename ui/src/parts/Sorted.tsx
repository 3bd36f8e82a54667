import { ArrowDown, ArrowUp } from 'lucide-react'

/** Which way a column is in order; `aria-sort` of its head says it too. */
export function Sorted({ down }: { down: boolean }) {
  const Arrow = down ? ArrowDown : ArrowUp
  return <Arrow className="mark ml-1" aria-hidden />
}
