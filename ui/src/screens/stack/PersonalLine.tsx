import { type FormEvent, useState } from 'react'
import { ErrorNote } from '../../parts/States'

/** A line of one's own, put after the first words of this one letter. */
export function PersonalLine({
  line,
  saving,
  error,
  onSave,
  onClose,
}: {
  line: string
  saving: boolean
  error: unknown
  onSave: (words: string) => void
  onClose: () => void
}) {
  const [words, setWords] = useState(line)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    onSave(words)
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
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) onSave(words)
        }}
      />
      <div className="flex justify-end gap-2 mt-2">
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
