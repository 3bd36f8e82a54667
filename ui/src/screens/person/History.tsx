import { useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { clock, day } from '../../app/format'
import { useSession } from '../../app/session'
import { classes } from '../../parts/classes'
import { SentLetterPage } from '../../parts/SentLetterPage'

type Entry = Shape<'History'>['entries'][number]

const TONES: Record<string, string> = {
  replied: 'bg-success',
  converted: 'bg-success',
  sent: 'bg-primary',
  opened: 'bg-base-300',
  clicked: 'bg-primary/60',
  bounced: 'bg-error',
  refused: 'bg-error',
  failed: 'bg-error',
  unsubscribed: 'bg-error',
  note: 'bg-accent',
}

/** What happened, newest first, day by day. A letter opens as it looked. */
export function History({ entries, narrow = false }: { entries: Entry[]; narrow?: boolean }) {
  const { firm } = useSession()
  const [open, setOpen] = useState<number | null>(null)
  return (
    <>
      <ol>
        {entries.map((entry, i) => {
          const date = day(entry.at, firm.time_zone)
          const before = entries[i - 1]
          const newDay = !before || day(before.at, firm.time_zone) !== date
          return (
            <li
              key={entry.id}
              className={classes(
                'grid gap-x-2 py-1 items-baseline',
                narrow ? 'grid-cols-[14px_minmax(0,1fr)]' : 'grid-cols-[112px_44px_14px_minmax(0,1fr)]',
              )}
            >
              {!narrow && (
                <>
                  <span className="muted text-xs">{newDay && date}</span>
                  <span className="muted text-xs text-right">{clock(entry.at, firm.time_zone)}</span>
                </>
              )}
              <span
                className={`w-2 h-2 rounded-full self-center ${TONES[entry.kind] ?? 'border border-base-300'}`}
                aria-hidden="true"
              />
              <span
                className={entry.kind === 'status_moved' || entry.kind === 'joined' || entry.kind === 'finished' ? 'muted' : ''}
              >
                {entry.kind === 'sent' && entry.delivery_id ? (
                  <button
                    type="button"
                    className="text-left hover:underline font-medium"
                    onClick={() => setOpen(entry.delivery_id ?? null)}
                  >
                    {entry.words}
                  </button>
                ) : (
                  entry.words
                )}
                {narrow && <span className="muted"> · {date}</span>}
                {entry.by_machine && <span className="muted"> (a scanner, not a person)</span>}
                {entry.by && <span className="muted"> · {entry.by}</span>}
                {entry.detail && (
                  <span
                    className={
                      !narrow && ['replied', 'note', 'call'].includes(entry.kind)
                        ? 'block font-serif text-base whitespace-pre-line'
                        : 'muted'
                    }
                  >
                    {' '}
                    {entry.detail}
                  </span>
                )}
              </span>
            </li>
          )
        })}
      </ol>
      {open !== null && (
        <SentLetterPage
          id={open}
          load={() => ask(api.GET('/api/deliveries/{id}', { params: { path: { id: open } } }))}
          onClose={() => setOpen(null)}
        />
      )}
    </>
  )
}
