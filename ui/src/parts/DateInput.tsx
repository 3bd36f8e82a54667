import { useState } from 'react'
import { readDate, writeDate } from '../app/dates'
import { useSession } from '../app/session'
import { classes } from './classes'
import { useTyped } from './useTyped'

/** A day, shown and typed in the firm's order, whatever country the browser is from. What is no day stays, and says so. */
export function DateInput({
  label,
  value,
  placeholder = 'a date',
  className,
  onSave,
}: {
  label: string
  /** ISO 8601 */
  value: string | null
  placeholder?: string
  className?: string
  onSave: (value: string | null) => void
}) {
  const { firm } = useSession()
  const order = firm.date_order
  const shown = value ? writeDate(value, order) : ''
  const { text, type, leave, putBack } = useTyped(shown)
  const [wrong, setWrong] = useState(false)
  const save = () => {
    if (text.trim() === shown) return leave()
    const read = text.trim() === '' ? null : readDate(text, order)
    setWrong(text.trim() !== '' && read === null)
    if (text.trim() !== '' && read === null) return
    leave()
    onSave(read)
  }
  return (
    <>
      <input
        type="text"
        className={classes(className, wrong && '!border-error')}
        aria-label={label}
        aria-invalid={wrong}
        placeholder={placeholder}
        value={text}
        onChange={(event) => {
          setWrong(false)
          type(event.target.value)
        }}
        onBlur={save}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur()
          if (event.key === 'Escape') {
            setWrong(false)
            putBack()
          }
        }}
      />
      {wrong && (
        <span role="alert" className="text-error text-xs">
          This is no day. Write it like {writeDate('2026-05-12', order)}.
        </span>
      )}
    </>
  )
}
