import { Redo2, Undo2 } from 'lucide-react'
import { moment } from '../../../app/format'
import { useSession } from '../../../app/session'
import { type Restoring, useVersions } from './useRestoring'

/** Steps back through what was kept, and forth again: what undo cannot do any more after the page was opened anew. */
export function StepThrough({ on }: { on: Restoring }) {
  const { firm } = useSession()
  const { data } = useVersions(on.kept, on.id)
  if (!data || (data.back === null && data.forward === null)) return null
  const step = (number: number | null, words: string, icon: React.ReactNode) => {
    const to = data.versions.find((one) => one.number === number)
    const label = to ? `${words} ${moment(to.updated_at, firm.time_zone)}, ${to.author ?? 'nobody'}` : `${words} no version`
    return (
      <button
        type="button"
        className="btn btn-xs btn-ghost px-1.5"
        aria-label={label}
        title={label}
        disabled={number === null || on.restore.isPending}
        onClick={() => number !== null && on.restore.mutate(number)}
      >
        {icon}
      </button>
    )
  }
  return (
    <span className="whitespace-nowrap" role="group" aria-label="Versions">
      {step(data.back, 'Back to', <Undo2 className="mark" aria-hidden />)}
      {step(data.forward, 'Forth to', <Redo2 className="mark" aria-hidden />)}
    </span>
  )
}
