import type { Shape } from '../../../api/client'

// Where common inboxes cut, in characters: subject, and what is left of the line for the preview.
const INBOXES = [
  { name: 'A wide desk', subject: 70, line: 130, stacked: false },
  { name: 'A narrow pane', subject: 45, line: 55, stacked: true },
  { name: 'A phone', subject: 38, line: 48, stacked: true },
]

const words = (runs: Shape<'Run'>[]) =>
  runs.map((run) => (run.kind === 'gap' ? `(no ${run.label?.toLowerCase()})` : run.text)).join('')

/** Cuts where an inbox does, and says so with three dots. */
export function cut(text: string, most: number): string {
  return text.length > most ? `${text.slice(0, Math.max(0, most - 1)).trimEnd()}…` : text
}

/** The line as inboxes show it, cut where they cut. */
export function InboxLines({ letter }: { letter: Shape<'Merged'> }) {
  const subject = words(letter.subject)
  // Without a preview line an inbox takes the first words of the letter.
  const preview = words(letter.preview) || letter.text.replace(/\s+/g, ' ')
  const from = letter.mailbox?.name ?? 'Nobody yet'
  return (
    <ul className="space-y-4">
      {INBOXES.map((inbox) => (
        <li key={inbox.name}>
          <p className="field-label">{inbox.name}</p>
          <div className={`sheet !shadow-none px-3 py-2 text-[13px] ${inbox.stacked ? '' : 'flex gap-2 !text-[10.5px]'}`}>
            <strong className="font-semibold shrink-0 block">{from}</strong>
            <span className="min-w-0 block truncate">
              <span className="font-semibold">{cut(subject, inbox.subject)}</span>
              {!inbox.stacked && (
                <span className="muted"> — {cut(preview, inbox.line - Math.min(subject.length, inbox.subject))}</span>
              )}
            </span>
            {inbox.stacked && <span className="muted block truncate">{cut(preview, inbox.line)}</span>}
          </div>
        </li>
      ))}
      {letter.preview.length === 0 && (
        <li className="text-accent text-xs">There is no preview line, so inboxes show the first words of the letter.</li>
      )}
    </ul>
  )
}
