import type { Shape } from '../../api/client'
import { useCreate } from '../../app/useCreate'
import { ErrorNote } from '../../parts/States'

/** Opens a letter to everybody of a list or a filter. */
export function WriteToThem({ audience, whom }: { audience: Shape<'Audience'>; whom: string }) {
  const { letter } = useCreate()
  return (
    <>
      {letter.error && <ErrorNote error={letter.error} />}
      <button
        type="button"
        className="btn btn-xs btn-plain"
        aria-label={`Write to ${whom}…`}
        disabled={letter.isPending}
        onClick={() => letter.mutate({ audience })}
      >
        Write to them…
      </button>
    </>
  )
}
