import type { ReactNode } from 'react'
import { ApiProblem } from '../api/client'

/** What happened, what was kept, and what to do. */
export function ErrorNote({ error, retry }: { error: unknown; retry?: () => void }) {
  const problem = error instanceof ApiProblem ? error : null
  return (
    <div role="alert" className="border-l-2 border-error bg-[var(--gap)] px-3 py-2 my-3 flex items-start gap-4">
      <p className="grow">
        <strong className="font-semibold">{error instanceof Error ? error.message : 'That did not work.'}</strong> {problem?.hint}
      </p>
      {retry && (
        <button type="button" className="btn btn-xs btn-plain" onClick={retry}>
          Try again
        </button>
      )}
    </div>
  )
}

/** Lines where text will be. */
export function Loading({ lines = 6 }: { lines?: number }) {
  return (
    <div role="status" aria-label="Loading" className="py-3">
      {Array.from({ length: lines }, (_, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the lines are all alike
        <div key={i} className="skeleton h-4 mb-4 rounded-sm" style={{ width: `${90 - ((i * 17) % 45)}%` }} />
      ))}
    </div>
  )
}

/** Nothing here yet, with the next move. */
export function Empty({ children, action }: { children: ReactNode; action?: ReactNode }) {
  return (
    <div className="py-10 max-w-md">
      <p className="font-serif text-lg muted mb-4">{children}</p>
      {action}
    </div>
  )
}
