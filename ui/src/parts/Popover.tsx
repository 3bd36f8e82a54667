import { type ReactNode, useEffect, useLayoutEffect, useRef, useState } from 'react'
import { classes } from './classes'

const GAP = 4
const EDGE = 8
const MOST_HIGH = 384

/** Below what opened it, or above where there is more room; within the window. */
function placed(opener: DOMRect, width: number, height: number): { left: number; top: number; maxHeight: number } {
  const below = window.innerHeight - opener.bottom - GAP - EDGE
  const above = opener.top - GAP - EDGE
  const under = height <= below || below >= above
  const maxHeight = Math.min(MOST_HIGH, Math.max(under ? below : above, 0))
  return {
    left: Math.max(EDGE, Math.min(opener.left, document.documentElement.clientWidth - width - 3 * EDGE)),
    top: under ? opener.bottom + GAP : opener.top - GAP - Math.min(height, maxHeight),
    maxHeight,
  }
}

/**
 * A word that opens its choices below it, in front of everything: nothing around it cuts them off. Escape shuts it and gives the
 * focus back; a click or the focus elsewhere shuts it too, so that one is open at a time.
 */
export function Popover({
  words,
  label,
  className = 'word',
  children,
  back,
  untabbed = false,
  fills = false,
  title,
  open: startsOpen = false,
}: {
  words: ReactNode
  label: string
  className?: string
  children: (shut: () => void) => ReactNode
  /** Takes the focus when it is shut, instead of the word. */
  back?: () => void
  /** Tab passes by the word: something else opens it for the keyboard. */
  untabbed?: boolean
  /** The word is as high as what it stands in. */
  fills?: boolean
  title?: string
  open?: boolean
}) {
  const [open, setOpen] = useState(startsOpen)
  const [place, setPlace] = useState<ReturnType<typeof placed>>()
  const root = useRef<HTMLSpanElement>(null)
  const panel = useRef<HTMLDivElement>(null)
  useLayoutEffect(() => {
    const node = panel.current
    if (!open || !node) return
    node.showPopover?.()
    const look = () => {
      const opener = root.current?.firstElementChild?.getBoundingClientRect()
      if (opener) setPlace(placed(opener, node.offsetWidth, node.scrollHeight))
    }
    look()
    // What it offers may come later.
    const grown = typeof ResizeObserver === 'undefined' ? null : new ResizeObserver(look)
    grown?.observe(node)
    window.addEventListener('scroll', look, true)
    window.addEventListener('resize', look)
    return () => {
      grown?.disconnect()
      window.removeEventListener('scroll', look, true)
      window.removeEventListener('resize', look)
    }
  }, [open])
  useEffect(() => {
    if (!open) return
    const first =
      panel.current?.querySelector<HTMLElement>('[data-first]') ?? panel.current?.querySelector('input, button, select')
    if (first instanceof HTMLElement) first.focus()
    const outside = (event: Event) => {
      const target = event.target
      if (!(target instanceof Element)) return
      // A click beside a control gives the focus to what is around all of it.
      if (event.type === 'focusin' && target.contains(root.current)) return
      // A question that was asked from here stands in front of it, not elsewhere.
      if (target.closest('dialog') !== root.current?.closest('dialog')) return
      // What is offered while one types in here stands beside it.
      if (!root.current?.contains(target) && !target.closest('[role=listbox]')) setOpen(false)
    }
    document.addEventListener('mousedown', outside)
    document.addEventListener('focusin', outside)
    return () => {
      document.removeEventListener('mousedown', outside)
      document.removeEventListener('focusin', outside)
    }
  }, [open])
  const shut = () => {
    setOpen(false)
    if (back) back()
    else root.current?.querySelector('button')?.focus()
  }
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: it only listens for Escape from the controls within
    <span
      ref={root}
      className={fills ? 'relative block h-full' : 'relative inline-block'}
      onKeyDown={(event) => {
        if (event.key === 'Escape' && open) {
          event.stopPropagation()
          // A question around it stays open: it is not what is left.
          event.preventDefault()
          shut()
        }
      }}
    >
      <button
        type="button"
        className={className}
        tabIndex={untabbed ? -1 : undefined}
        aria-expanded={open}
        aria-haspopup="dialog"
        aria-label={label}
        title={title}
        onClick={() => setOpen(!open)}
      >
        {words}
      </button>
      {open && (
        <div
          ref={panel}
          role="dialog"
          aria-label={label}
          popover="manual"
          style={place}
          className={classes(
            'fixed inset-auto m-0 min-w-56 overflow-y-auto overflow-x-hidden bg-[var(--sheet)] text-base-content border',
            'border-base-300 rounded-sm p-2 font-sans text-sm shadow-lg',
          )}
        >
          {children(shut)}
        </div>
      )}
    </span>
  )
}
