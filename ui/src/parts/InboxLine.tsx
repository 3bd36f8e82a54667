import type { ReactNode } from 'react'
import type { Shape } from '../api/client'

type Merged = Shape<'Merged'>
type Run = Shape<'Run'>

function drawRun(run: Run, key: number, onGap?: (field: string) => void): ReactNode {
  if (run.kind === 'break') return <br key={key} />
  if (run.kind === 'gap') {
    const words = `${run.label?.toLowerCase()} is missing, write it here`
    return onGap ? (
      <button key={key} type="button" className="gap-mark cursor-pointer" onClick={() => run.field && onGap(run.field)}>
        {words}
      </button>
    ) : (
      <span key={key} className="gap-mark">
        {run.label?.toLowerCase()} is missing
      </span>
    )
  }
  let node: ReactNode = run.text
  if (run.kind === 'merged') node = <span className="merged">{run.text}</span>
  if (run.kind === 'fallback') node = <span className="border-b border-dotted border-secondary">{run.text}</span>
  if (run.marks.includes('bold')) node = <strong>{node}</strong>
  if (run.marks.includes('italic')) node = <em>{node}</em>
  return run.href ? (
    <a key={key} href={run.href} title={run.href} target="_blank" rel="noreferrer">
      {node}
    </a>
  ) : (
    <span key={key}>{node}</span>
  )
}

/** Words of a line or a paragraph with what was merged in. */
export function Runs({ runs, onGap }: { runs: Run[]; onGap?: (field: string) => void }) {
  return <>{runs.map((run, i) => drawRun(run, i, onGap))}</>
}

/** The line an inbox shows. */
export function InboxLine({ letter, when }: { letter: Merged; when?: string }) {
  return (
    <div className="bg-[var(--sheet)] border border-base-300 px-3 py-2.5 flex gap-3 items-baseline text-[13px]">
      <strong className="font-semibold shrink-0">{letter.mailbox?.name ?? 'Nobody yet'}</strong>
      <span className="grow min-w-0 truncate">
        <strong className="font-semibold">
          <Runs runs={letter.subject} />
        </strong>
        {letter.preview.length > 0 && <span className="muted"> — </span>}
        <span className="muted">
          <Runs runs={letter.preview} />
        </span>
      </span>
      {when && <span className="muted shrink-0">{when}</span>}
    </div>
  )
}
