import { Modal } from '../parts/Modal'
import { useShownKeys } from './keys'

/** The keys of the screen one is on. */
export function KeysPage({ onClose }: { onClose: () => void }) {
  const keys = useShownKeys()
  return (
    <Modal title="Keys on this screen" onClose={onClose}>
      <dl className="grid grid-cols-[80px_minmax(0,1fr)] gap-y-2">
        {keys.map((key) => (
          <div key={`${key.key}${key.words}`} className="contents">
            <dt>
              <kbd className="key">{key.key.length === 1 ? key.key.toUpperCase() : key.key}</kbd>
            </dt>
            <dd>{key.words}</dd>
          </div>
        ))}
      </dl>
      <div className="mt-4 text-right">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Close
        </button>
      </div>
    </Modal>
  )
}
