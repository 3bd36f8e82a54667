import { type FormEvent, useState } from 'react'
import { ErrorNote } from '../../parts/States'

/** A line of one's own, put after the first words of this one letter. */
export function PersonalLine({
  line,
  after,
  places,
  saving,
  error,
  onSave,
  onClose,
}: {
  line: string
  /** The words of the block it stands after; null: after the first. */
  after: string | null
  places: string[]
  saving: boolean
  error: unknown
  onSave: (words: string, after: string | null) => void
  onClose: () => void
}) {
  const [words, setWords] = useState(line)
  const [place, setPlace] = useState(after)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    onSave(words, place)
  }
  return (
    <form onSubmit={submit} className="border-l-2 border-accent bg-[var(--personal)] p-3 mb-2.5">
      {error != null && <ErrorNote error={error} />}
      <label className="field-label !text-base-content" htmlFor="personal-line">
        Something of your own, only in this letter
      </label>
      <textarea
        id="personal-line"
        // biome-ignore lint/a11y/noAutofocus: it opens on a key press, to be typed into
        autoFocus
        rows={3}
        className="textarea w-full bg-[var(--sheet)] font-serif text-base"
        value={words}
        onChange={(event) => setWords(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Escape') onClose()
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) onSave(words, place)
        }}
      />
      <div className="flex justify-end gap-2 mt-2 items-center">
        <label className="mr-auto flex items-center gap-2 text-xs min-w-0">
          after
          <select
            className="select select-xs bg-[var(--sheet)] w-72"
            value={place ?? ''}
            onChange={(event) => setPlace(event.target.value || null)}
          >
            <option value="">the first words</option>
            {place && !places.includes(place) && <option value={place}>{place.slice(0, 60)} (gone)</option>}
            {places.slice(1).map((one) => (
              <option key={one} value={one}>
                {one.slice(0, 60)}
              </option>
            ))}
          </select>
        </label>
        <button type="button" className="btn btn-xs btn-plain" onClick={onClose}>
          Leave it
        </button>
        <button type="submit" className="btn btn-xs btn-primary" disabled={saving}>
          Put it in
        </button>
      </div>
    </form>
  )
}
