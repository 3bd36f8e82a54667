import { Link } from 'react-router'
import type { Shape } from '../../../api/client'
import { Modal } from '../../../parts/Modal'
import { ErrorNote, Loading } from '../../../parts/States'
import { usePassages } from './usePassages'

/** Chooses a passage kept for reuse. */
export function PassagePick({ onPick, onClose }: { onPick: (passage: Shape<'Passage'>) => void; onClose: () => void }) {
  const { data, error } = usePassages()
  return (
    <Modal title="Which passage" onClose={onClose}>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Loading />}
      <ul>
        {data?.map((passage) => (
          <li key={passage.id}>
            <button
              type="button"
              className="block w-full text-left px-2 py-1.5 rounded-sm hover:bg-base-200"
              onClick={() => onPick(passage)}
            >
              <span className="font-semibold block">{passage.name}</span>
              <span className="muted text-[13px] line-clamp-2">{passage.words || 'empty'}</span>
            </button>
          </li>
        ))}
      </ul>
      {data?.length === 0 && <p className="muted">There are no passages yet.</p>}
      <p className="flex justify-between mt-4">
        <Link to="/passages" className="text-primary underline min-h-6">
          Write a new one
        </Link>
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Not now
        </button>
      </p>
    </Modal>
  )
}
