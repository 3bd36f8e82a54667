import { number, plural } from '../../../app/format'
import { Modal } from '../../../parts/Modal'

/** Asks once, with the number, before what is still due is called off for good. */
export function StopDialog({
  name,
  sent,
  due,
  onStop,
  onClose,
}: {
  name: string
  /** Letters that have left. */
  sent: number
  /** Letters that are still to leave. */
  due: number
  onStop: () => void
  onClose: () => void
}) {
  return (
    <Modal title={`Stop “${name}”?`} onClose={onClose}>
      <p className="font-serif text-lg">
        {sent > 0 && `${plural(sent, 'letter has', 'letters have')} left already. `}
        {due === 1 ? '1 letter that is' : `${number(due)} letters that are`} still due will not go out, and everybody leaves it.
        This cannot be taken back; pausing can.
      </p>
      <div className="mt-5 flex justify-end gap-2">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Let it be
        </button>
        <button type="button" className="btn btn-sm btn-error" onClick={onStop}>
          Stop it
        </button>
      </div>
    </Modal>
  )
}
