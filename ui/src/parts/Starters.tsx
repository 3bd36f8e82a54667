import { type ReactNode, useState } from 'react'
import { ErrorNote, Loading } from './States'

/** What ships to begin with: its names, the one that is looked at beside them, and the move that takes it. */
export function Starters<Starter extends { key: string; name: string }>({
  starters,
  error,
  show,
  onTake,
}: {
  starters: Starter[] | undefined
  error: unknown
  show: (starter: Starter) => ReactNode
  onTake: (key: string) => void
}) {
  const [at, setAt] = useState(0)
  const shown = starters?.[at]
  return (
    <>
      <h3 className="field-label">Or begin with one of these, and make it yours</h3>
      {error != null && <ErrorNote error={error} />}
      {!starters && error == null && <Loading lines={4} />}
      <div className="grid grid-cols-[210px_minmax(0,1fr)] gap-5">
        <ul>
          {starters?.map((starter, i) => (
            <li key={starter.key}>
              <button
                type="button"
                aria-pressed={i === at}
                className={`block w-full text-left px-2 py-1.5 rounded-sm ${i === at ? 'bg-base-200 font-semibold' : 'hover:bg-base-200'}`}
                onClick={() => setAt(i)}
              >
                {starter.name}
              </button>
            </li>
          ))}
        </ul>
        {shown && (
          <div>
            {show(shown)}
            <p className="text-right mt-3">
              <button type="button" className="btn btn-sm btn-primary" onClick={() => onTake(shown.key)}>
                Begin with this one
              </button>
            </p>
          </div>
        )}
      </div>
    </>
  )
}
