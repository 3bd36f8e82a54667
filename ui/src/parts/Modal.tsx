import { type ReactNode, useEffect, useRef } from 'react'
import { createPortal } from 'react-dom'
import { classes } from './classes'

/**
 * A question in front of the page, and outside of it: it looks the same wherever it is asked. Escape leaves it; keys go on where one was
 * before.
 */
export function Modal({
  title,
  onClose,
  children,
  wide = false,
}: {
  title: string
  onClose: () => void
  children: ReactNode
  wide?: boolean
}) {
  const dialog = useRef<HTMLDialogElement>(null)
  useEffect(() => {
    const node = dialog.current
    if (!node || node.open) return
    const asked = document.activeElement
    node.showModal()
    // Into the first field, so that one types at once; where there is none, the browser's choice stands.
    node.querySelector<HTMLElement>('[data-first], input:not([type=hidden]):not([disabled]), textarea, select')?.focus()
    return () => {
      // A browser gives the focus back to what had it when a question is closed, but not when it is taken off the page.
      if (document.activeElement === document.body && asked instanceof HTMLElement) asked.focus()
    }
  }, [])
  return createPortal(
    // A question asked from within this one is part of it to React, and not what is left when that one is.
    <dialog
      ref={dialog}
      onClose={(event) => event.target === event.currentTarget && onClose()}
      aria-label={title}
      className="modal"
    >
      <div
        className={classes(
          'font-sans text-sm leading-5 text-left font-normal bg-base-100 border border-base-300 rounded-sm p-6',
          'm-auto',
          wide ? 'w-[760px]' : 'w-[480px]',
          'max-h-[85vh] overflow-auto',
        )}
      >
        <h2 className="text-xl mb-3">{title}</h2>
        {children}
      </div>
    </dialog>,
    document.body,
  )
}
