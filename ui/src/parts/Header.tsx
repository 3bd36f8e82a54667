import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { moment } from '../app/format'

/** Title of a screen, with the way back above and the actions beside it. */
export function Header({
  title,
  over,
  aside,
  actions,
}: {
  title: ReactNode
  over?: { to: string; words: string }
  aside?: ReactNode
  actions?: ReactNode
}) {
  return (
    <header className="flex items-end gap-4 mb-4 min-h-12">
      <div className="grow min-w-0">
        {over && (
          <Link to={over.to} className="text-xs muted hover:underline inline-block min-h-6 leading-6">
            {over.words}
          </Link>
        )}
        <div className="flex items-baseline gap-3 flex-wrap">
          <h1 className="truncate">{title}</h1>
          {aside}
        </div>
      </div>
      <div className="flex items-center gap-2 shrink-0">{actions}</div>
    </header>
  )
}

const STATES = {
  draft: { words: 'Draft', tone: 'bg-[var(--personal)] text-accent' },
  running: { words: 'Running', tone: 'bg-[var(--merged)] text-primary' },
  paused: { words: 'Paused', tone: 'bg-[var(--personal)] text-accent' },
  stopped: { words: 'Stopped', tone: 'bg-base-200 text-secondary' },
  ended: { words: 'Ended', tone: 'bg-base-200 text-secondary' },
} as const

/** Of a draft that is to start at a time: when. */
export const startsAt = ({ start_at }: { start_at?: string | null }, timeZone: string) =>
  start_at ? `starts ${moment(start_at, timeZone)}` : undefined

/** The state of a sequence, as a word on a colour. */
export function StateBadge({ state, more }: { state: keyof typeof STATES; more?: string }) {
  return (
    <span className={`chip ${STATES[state].tone}`}>
      {STATES[state].words}
      {more && `, ${more}`}
    </span>
  )
}
