import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { moment } from '../../../app/format'
import { useSession } from '../../../app/session'
import { Modal } from '../../../parts/Modal'
import { ErrorNote, Loading } from '../../../parts/States'

const KINDS: Record<string, string> = { typed: '', restored: 'gone back to', set_aside: 'set aside in a collision' }
const PARTS: Record<string, string> = {
  name: 'Name',
  subject: 'Subject',
  preview: 'Preview line',
  body: 'Text',
  manner: 'Manner',
  category: 'Category',
  language: 'Language',
  about: 'Written for',
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
  letter,
  number,
  other,
  version,
  onRestored,
  onClose,
}: {
  letter: Shape<'Letter'>
  number: number
  other: number | null
  version: () => number
  onRestored: () => void
  onClose: () => void
}) {
  const client = useQueryClient()
  const { data, error } = useQuery({
    queryKey: ['letter-versions', letter.id, number, other],
    queryFn: () =>
      ask(
        api.GET('/api/letters/{id}/versions/{number}', {
          params: { path: { id: letter.id, number }, query: other ? { with: other } : {} },
        }),
      ),
  })
  const restore = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/letters/{id}/versions/{number}/restore', {
          params: { path: { id: letter.id, number } },
          body: { version: version() },
        }),
      ),
    onSuccess: (saved) => {
      client.setQueryData(['letter', letter.id], saved)
      client.invalidateQueries({ queryKey: ['letter-versions', letter.id] })
      onRestored()
    },
  })
  return (
    <Modal
      wide
      title={other ? `From version ${number} to ${other}` : `From version ${number} to the letter as it is`}
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
        <button type="button" className="btn btn-sm btn-primary" disabled={restore.isPending} onClick={() => restore.mutate()}>
          Go back to version {number}
        </button>
      </div>
    </Modal>
  )
}

/** What the letter was, by whom and when; two of them side by side; the way back. */
export function VersionsPane({
  letter,
  version,
  onRestored,
}: {
  letter: Shape<'Letter'>
  version: () => number
  onRestored: () => void
}) {
  const { firm } = useSession()
  const [shown, setShown] = useState<{ number: number; other: number | null } | null>(null)
  const [marked, setMarked] = useState<number | null>(null)
  const { data, error } = useQuery({
    queryKey: ['letter-versions', letter.id],
    queryFn: async () => (await ask(api.GET('/api/letters/{id}/versions', { params: { path: { id: letter.id } } }))).versions,
  })
  if (error) return <ErrorNote error={error} />
  if (!data) return <Loading />
  return (
    <div>
      <p className="muted text-[13px] mb-2">Kept by themselves as one types, a new one every ten minutes of writing.</p>
      <ul>
        {data.map((one) => (
          <li key={one.number} className="border-b border-base-300/60 py-1.5 flex gap-2 items-baseline">
            <span className="grow">
              <strong className="font-semibold">{moment(one.updated_at, firm.time_zone)}</strong>
              <span className="muted">
                {' '}
                · {one.author ?? 'nobody'}
                {KINDS[one.kind] && `, ${KINDS[one.kind]}`}
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
      {shown && (
        <Comparison
          letter={letter}
          {...shown}
          version={version}
          onRestored={() => {
            setShown(null)
            onRestored()
          }}
          onClose={() => setShown(null)}
        />
      )}
    </div>
  )
}
