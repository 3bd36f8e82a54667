import { type ReactNode, useEffect, useRef, useState } from 'react'
import { classes } from './classes'

/** A word that opens its choices below it. Escape and a click elsewhere shut it and give the focus back. */
export function Popover({
  words,
  label,
  className = 'word',
  children,
  open: startsOpen = false,
}: {
  words: ReactNode
  label: string
  className?: string
  children: (shut: () => void) => ReactNode
  open?: boolean
}) {
  const [open, setOpen] = useState(startsOpen)
  const [left, setLeft] = useState(0)
  const root = useRef<HTMLSpanElement>(null)
  const panel = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (!open) return
    panel.current?.querySelector<HTMLElement>('input, button, select')?.focus()
    const right = panel.current?.getBoundingClientRect().right ?? 0
    setLeft(Math.min(0, document.documentElement.clientWidth - 24 - right))
    panel.current?.scrollIntoView?.({ block: 'nearest' })
    const outside = (event: MouseEvent) => {
      const target = event.target as Element
      // A question that was asked from here stands in front of it, not elsewhere.
      if (target.closest('dialog') !== root.current?.closest('dialog')) return
      if (!root.current?.contains(target)) setOpen(false)
    }
    document.addEventListener('mousedown', outside)
    return () => document.removeEventListener('mousedown', outside)
  }, [open])
  const shut = () => {
    setOpen(false)
    root.current?.querySelector('button')?.focus()
  }
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: it only listens for Escape from the controls within
    <span
      ref={root}
      className="relative inline-block"
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
        aria-expanded={open}
        aria-haspopup="dialog"
        aria-label={label}
        onClick={() => setOpen(!open)}
      >
        {words}
      </button>
      {open && (
        <div
          ref={panel}
          role="dialog"
          aria-label={label}
          style={{ left }}
          className={classes(
            'absolute top-full z-30 mt-1 min-w-56 max-h-96 overflow-y-auto overflow-x-hidden bg-[var(--sheet)] border',
            'border-base-300 rounded-sm p-2 font-sans text-sm shadow-lg',
          )}
        >
          {children(shut)}
        </div>
      )}
    </span>
  )
}
