import { X } from 'lucide-react'
import type { ReactNode } from 'react'
import { classes } from './classes'

/** What was just done, at the foot of the page, and the way back. */
export function DoneNote({
  words,
  undo,
  undoing = false,
  onClose,
  children,
}: {
  words: ReactNode
  /** Nothing to undo: it is under way, or taken back already. */
  undo?: (() => void) | undefined
  undoing?: boolean
  onClose: () => void
  children?: ReactNode
}) {
  return (
    <div
      role="status"
      className={classes(
        'fixed bottom-16 left-1/2 -translate-x-1/2 z-40 min-w-80 max-w-xl bg-[var(--strip)]',
        'text-[var(--strip-text)] rounded-sm px-4 py-2.5 shadow-lg',
      )}
    >
      <div className="flex items-center gap-4">
        <p className="grow">{words}</p>
        {undo && (
          <button type="button" className="underline underline-offset-4 font-semibold" disabled={undoing} onClick={undo}>
            Undo
          </button>
        )}
        <button type="button" aria-label="Close this note" className="opacity-80 hover:opacity-100" onClick={onClose}>
          <X className="mark" aria-hidden />
        </button>
      </div>
      {children}
    </div>
  )
}
