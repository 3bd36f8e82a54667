import { clock } from '../../../app/format'
import { useSession } from '../../../app/session'
import type { Saving } from './useAutosave'

/** Whether what was typed is saved, and since when. */
export function SavedNote({ saving }: { saving: Saving }) {
  const { firm } = useSession()
  const words = { saved: '', typing: 'Saving…', problem: 'Not saved yet' }[saving.state]
  return (
    <span className="muted text-xs whitespace-nowrap" role="status">
      {saving.state === 'saved' ? `Saved ${clock(saving.at, firm.time_zone)}` : words}
    </span>
  )
}
