import { useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { api, ask } from '../../../api/client'
import { Modal } from '../../../parts/Modal'
import { ErrorNote } from '../../../parts/States'

export type Format = 'json' | 'eml' | 'html' | 'md'
const NAMES: Record<Format, string> = { json: 'JSON', eml: 'a message', html: 'HTML', md: 'Markdown' }

/** Has the browser keep the letter as a file. */
export function saveLetter(letterId: number, format: Format) {
  window.location.assign(`/api/letters/${letterId}/file?format=${format}`)
}

/** Takes a letter out as text for other programs; what of it cannot go along is said first. */
export function TakeOut({ letterId, format, onClose }: { letterId: number; format: Format; onClose: () => void }) {
  const { data, error } = useQuery({
    queryKey: ['letter', letterId, 'left-out', format],
    queryFn: () => ask(api.GET('/api/letters/{id}/left-out', { params: { path: { id: letterId }, query: { format } } })),
    gcTime: 0,
  })
  const whole = data?.left_out.length === 0
  useEffect(() => {
    if (!whole) return
    saveLetter(letterId, format)
    onClose()
  }, [whole, letterId, format, onClose])
  if (!error && (!data || whole)) return null
  const save = (as: Format) => {
    saveLetter(letterId, as)
    onClose()
  }
  return (
    <Modal title={`As ${NAMES[format]} it goes without`} onClose={onClose}>
      {error && <ErrorNote error={error} />}
      <ul className="list-disc pl-5 mb-4">
        {data?.left_out.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
      <div className="flex justify-end gap-2">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Not now
        </button>
        <button type="button" className="btn btn-sm btn-plain" onClick={() => save('json')}>
          As JSON: all of it
        </button>
        <button type="button" className="btn btn-sm btn-primary" onClick={() => save(format)}>
          Take it out as {NAMES[format]}
        </button>
      </div>
    </Modal>
  )
}
