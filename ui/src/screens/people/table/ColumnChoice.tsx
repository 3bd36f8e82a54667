import { ArrowDown, ArrowUp, X } from 'lucide-react'
import { useState } from 'react'
import type { Shape } from '../../../api/client'
import { Popover } from '../../../parts/Popover'
import { FIRST_VIEW, type View } from './usePeople'

/** Which columns the table shows, and in which order. */
export function ColumnChoice({
  catalogue,
  view,
  onView,
}: {
  catalogue: Shape<'Catalogue'>
  view: View
  onView: (view: View) => void
}) {
  const [words, setWords] = useState('')
  const fields = catalogue.fields.filter(
    (field) => field.uses.includes('column') && !field.retired && field.key !== 'person.name',
  )
  const label = (key: string) => catalogue.fields.find((field) => field.key === key)?.label ?? key
  const set = (columns: string[]) => onView({ ...view, columns })
  const move = (at: number, by: number) => {
    const columns = [...view.columns]
    const [moved] = columns.splice(at, 1)
    if (moved) columns.splice(at + by, 0, moved)
    set(columns)
  }
  return (
    <Popover words="Columns" label="Choose columns" className="btn btn-sm btn-plain">
      {() => (
        <div className="w-64">
          <ol className="mb-2 border-b border-base-300 pb-2">
            {view.columns.map((key, i) => (
              <li key={key} className="flex items-center gap-1 px-1">
                <span className="grow truncate">{label(key)}</span>
                <button
                  type="button"
                  className="btn btn-xs btn-ghost px-1"
                  disabled={i === 0}
                  aria-label={`${label(key)} further left`}
                  onClick={() => move(i, -1)}
                >
                  <ArrowUp className="mark" aria-hidden />
                </button>
                <button
                  type="button"
                  className="btn btn-xs btn-ghost px-1"
                  disabled={i === view.columns.length - 1}
                  aria-label={`${label(key)} further right`}
                  onClick={() => move(i, 1)}
                >
                  <ArrowDown className="mark" aria-hidden />
                </button>
                <button
                  type="button"
                  className="btn btn-xs btn-ghost px-1"
                  aria-label={`Hide ${label(key)}`}
                  onClick={() => set(view.columns.filter((one) => one !== key))}
                >
                  <X className="mark" aria-hidden />
                </button>
              </li>
            ))}
          </ol>
          <button type="button" className="quiet-word !text-xs px-1 mb-2" onClick={() => onView(FIRST_VIEW)}>
            As it was at first
          </button>
          <input
            className="text-field mb-1"
            placeholder="Find a field to show"
            aria-label="Find a field to show"
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
          <ul>
            {fields
              .filter((field) => !view.columns.includes(field.key) && field.label.toLowerCase().includes(words.toLowerCase()))
              .map((field) => (
                <li key={field.key}>
                  <button
                    type="button"
                    className="w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200"
                    onClick={() => set([...view.columns, field.key])}
                  >
                    + {field.label}
                  </button>
                </li>
              ))}
          </ul>
        </div>
      )}
    </Popover>
  )
}
