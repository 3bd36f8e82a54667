import { useQuery } from '@tanstack/react-query'
import type { Shape } from '../api/client'
import { moment } from '../app/format'
import { useSession } from '../app/session'
import { Modal } from './Modal'
import { ErrorNote, Loading } from './States'

/** A letter as it went out. */
export function SentLetterPage({
  id,
  load,
  onClose,
}: {
  id: number
  load: () => Promise<Shape<'SentLetter'>>
  onClose: () => void
}) {
  const { firm } = useSession()
  const { data, error } = useQuery({ queryKey: ['sent', id], queryFn: load })
  return (
    <Modal title={data?.subject ?? 'Letter'} onClose={onClose} wide>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Loading />}
      {data && (
        <>
          <p className="muted mb-3">
            To {data.person}
            {data.from && `, from ${data.from}`}
            {data.sent_at && `, ${moment(data.sent_at, firm.time_zone)}`}
          </p>
          <div className="sheet letter-text px-9 py-7 whitespace-pre-wrap">{data.text}</div>
        </>
      )}
      <div className="mt-4 text-right">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Close
        </button>
      </div>
    </Modal>
  )
}
