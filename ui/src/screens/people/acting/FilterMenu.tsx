import type { Shape } from '../../../api/client'
import { Popover } from '../../../parts/Popover'

/** Saved filters by name; the one in use is marked. */
export function FilterMenu({
  filters,
  current,
  onUse,
}: {
  filters: Shape<'Filter'>[]
  current: Shape<'Filter'> | null
  onUse: (filter: Shape<'Filter'> | null) => void
}) {
  return (
    <Popover
      words={current ? current.name : 'Saved filters…'}
      label="Saved filters"
      className="btn btn-sm btn-plain max-w-44 truncate"
    >
      {(shut) => (
        <ul className="w-80">
          {[null, ...filters].map((one) => (
            <li key={one?.id ?? 0}>
              <button
                type="button"
                className="w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200"
                aria-current={one?.id === current?.id}
                onClick={() => {
                  onUse(one)
                  shut()
                }}
              >
                <span className={one?.id === current?.id ? 'font-semibold' : ''}>{one ? one.name : 'Everybody'}</span>
                {one && !one.shared && <span className="muted text-xs"> · only yours</span>}
                {one && <span className="block muted text-xs truncate">{one.sentence}</span>}
              </button>
            </li>
          ))}
        </ul>
      )}
    </Popover>
  )
}
