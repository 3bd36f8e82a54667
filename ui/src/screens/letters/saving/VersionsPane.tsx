import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { moment } from '../../../app/format'
import { useSession } from '../../../app/session'
import { Modal } from '../../../parts/Modal'
import { ErrorNote, Loading } from '../../../parts/States'
import { type Restoring, useVersions } from './useRestoring'

const PARTS: Record<string, string> = {
  name: 'Name',
  subject: 'Subject',
  preview: 'Preview line',
  body: 'Text',
  manner: 'Manner',
  category: 'Category',
  language: 'Language',
  about: 'Written for',
  '': 'For everybody else',
}

/** Pieces of a text: what went is struck out, what came is underlined. */
function Pieces({ pieces }: { pieces: { kind: string; text: string }[] }) {
  return (
    <p className="font-serif text-base whitespace-pre-wrap">
      {pieces.map((piece, i) => {
        const key = `${i} ${piece.kind}`
        if (piece.kind === 'gone')
          return (
            <del key={key} className="bg-[var(--gap)] text-error">
              {piece.text}
            </del>
          )
        if (piece.kind === 'new')
          return (
            <ins key={key} className="bg-[var(--merged)] text-primary">
              {piece.text}
            </ins>
          )
        return <span key={key}>{piece.text}</span>
      })}
    </p>
  )
}

function Comparison({
  number,
  other,
  on,
  onClose,
}: {
  number: number
  other: number | null
  on: Restoring
  onClose: () => void
}) {
  const { kept, id, restore } = on
  const { data, error } = useQuery({
    queryKey: ['versions', kept.kind, id, number, other],
    queryFn: () => kept.compare(id, number, other),
  })
  return (
    <Modal
      wide
      title={other ? `From version ${number} to ${other}` : `From version ${number} to the ${kept.kind} as it is`}
      onClose={onClose}
    >
      {error && <ErrorNote error={error} />}
      {restore.error && <ErrorNote error={restore.error} />}
      {!data && !error && <Loading />}
      {data?.parts.map((part) => (
        <section key={part.part} className="mb-4">
          <h3 className="field-label">{PARTS[part.part] ?? part.part}</h3>
          <Pieces pieces={part.pieces} />
        </section>
      ))}
      <div className="flex justify-end gap-2 mt-4">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Close
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={restore.isPending}
          onClick={() => restore.mutate(number, { onSuccess: onClose })}
        >
          Go back to version {number}
        </button>
      </div>
    </Modal>
  )
}

/** What the text was, by whom and when; two of them side by side; the way back, and back again. */
export function VersionsPane({ on }: { on: Restoring }) {
  const { firm } = useSession()
  const [shown, setShown] = useState<{ number: number; other: number | null } | null>(null)
  const [marked, setMarked] = useState<number | null>(null)
  const { data, error } = useVersions(on.kept, on.id)
  if (error) return <ErrorNote error={error} />
  if (!data) return <Loading />
  const { at, newest } = data
  const standing = data.versions.find((one) => one.number === at)
  return (
    <div>
      <p className="muted text-[13px] mb-2">
        Kept by themselves: when somebody else writes, after a pause, every ten minutes, and before much is taken away.
      </p>
      {at !== newest && newest !== null && standing && (
        <div role="status" className="border-l-2 border-accent bg-[var(--personal)] px-3 py-2 mb-3 flex gap-3 items-center">
          <p className="grow">
            You went back to {moment(standing.updated_at, firm.time_zone)}, version {at}.
          </p>
          <button
            type="button"
            className="btn btn-xs btn-plain"
            disabled={on.restore.isPending}
            onClick={() => on.restore.mutate(newest)}
          >
            Return to the newest
          </button>
        </div>
      )}
      <ul>
        {data.versions
          .filter((one) => one.kind !== 'restored')
          .map((one) => (
            <li key={one.number} className="border-b border-base-300/60 py-1.5 flex gap-2 items-baseline">
              <span className="grow">
                <strong className="font-semibold">
                  {one.number}. {moment(one.updated_at, firm.time_zone)}
                </strong>
                <span className="muted">
                  {' '}
                  · {one.author ?? 'nobody'}
                  {one.kind === 'set_aside' && ', set aside in a collision'}
                  {one.number === at && ', now'}
                </span>
              </span>
              <button
                type="button"
                className="quiet-word !text-xs"
                aria-pressed={marked === one.number}
                onClick={() => {
                  if (marked !== null && marked !== one.number) {
                    setShown({ number: Math.min(marked, one.number), other: Math.max(marked, one.number) })
                    setMarked(null)
                  } else setMarked(marked === one.number ? null : one.number)
                }}
              >
                {marked === null ? 'Compare…' : marked === one.number ? 'with which?' : 'with this'}
              </button>
              <button
                type="button"
                className="quiet-word !text-xs !text-primary"
                onClick={() => setShown({ number: one.number, other: null })}
              >
                Show
              </button>
            </li>
          ))}
      </ul>
      {shown && <Comparison {...shown} on={on} onClose={() => setShown(null)} />}
    </div>
  )
}
