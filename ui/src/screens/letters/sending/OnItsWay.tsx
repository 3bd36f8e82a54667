import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { plural } from '../../../app/format'

const LOOK_MS = 1000

/** What was sent a moment ago and has not left: for so long one move takes it back. */
export function OnItsWay({
  sequenceId,
  seconds,
  onUndo,
}: {
  sequenceId: number
  /** Left when the page was told first. */
  seconds: number
  onUndo: () => void
}) {
  const client = useQueryClient()
  const [end] = useState(() => performance.now() + seconds * 1000)
  const [left, setLeft] = useState(seconds)
  useEffect(() => {
    const timer = window.setInterval(() => {
      const now = (end - performance.now()) / 1000
      setLeft(Math.max(0, now))
      // It starts a moment after that.
      if (now <= 0) client.invalidateQueries({ queryKey: ['sequence', sequenceId] })
    }, LOOK_MS)
    return () => window.clearInterval(timer)
  }, [client, sequenceId, end])
  const whole = Math.ceil(left)
  return (
    <p role="status" className="bg-[var(--merged)] px-3 py-2 mb-3 flex gap-3 items-baseline">
      <span className="grow">
        <strong className="font-semibold">Sent.</strong>{' '}
        {whole > 0 ? `Nothing leaves for another ${plural(whole, 'second')}.` : 'The first letters are leaving.'}
      </span>
      {whole > 0 && (
        <button type="button" className="btn btn-xs btn-primary" aria-label="Undo sending" onClick={onUndo}>
          Undo
        </button>
      )}
    </p>
  )
}
