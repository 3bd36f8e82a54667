import type { Shape } from '../api/client'

/** Where something is used, as links. */
export function UsedIn({ uses }: { uses: Shape<'Use'>[] }) {
  if (uses.length === 0) return <span className="muted">nowhere</span>
  return <>{uses.map((use) => `${use.name}${use.state ? ` (${use.state})` : ''}`).join(', ')}</>
}
