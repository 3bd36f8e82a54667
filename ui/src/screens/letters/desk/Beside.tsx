import type { ReactNode } from 'react'
import type { Shape } from '../../../api/client'
import { Segments } from '../../../parts/Segments'
import { ChecksPane, useChecks } from '../reading/ChecksPane'
import { ReadAs } from '../reading/ReadAs'
import type { useRestoring } from '../saving/useRestoring'
import { VersionsPane } from '../saving/VersionsPane'

/** What one looks at beside the letter; a version gone back to, or a colleague's change, leaves it as it is. */
export type View = { pane: 'read' | 'checks' | 'versions'; personId: number | null }

/** Beside the paper: the letter as they read it, what a second pair of eyes would say, and how it was before. */
export function Beside({
  letter,
  sequenceId,
  view,
  onView,
  restoring,
  onSetAside,
  onJump,
  below,
}: {
  letter: Shape<'Letter'>
  sequenceId?: number
  view: View
  onView: (changed: Partial<View>) => void
  restoring: ReturnType<typeof useRestoring>
  onSetAside: (codes: string[]) => void
  onJump: (advice: Shape<'Advice'>) => void
  /** Below the letter as they read it. */
  below?: ReactNode
}) {
  const { data: checks } = useChecks(letter.id, sequenceId)
  const remarks = checks?.advice.length ?? 0
  return (
    <aside aria-label="Looking at it" className="sticky top-0">
      <div className="mb-3">
        <Segments
          label="Beside the letter"
          chosen={view.pane}
          onChoose={(pane) => onView({ pane })}
          options={[
            { value: 'read', words: 'As they read it' },
            { value: 'checks', words: remarks > 0 ? `Checks: ${remarks}` : 'Checks' },
            { value: 'versions', words: 'Versions' },
          ]}
        />
      </div>
      {view.pane === 'read' && (
        <>
          <ReadAs
            letterId={letter.id}
            sequenceId={sequenceId}
            version={letter.version}
            personId={view.personId}
            onPerson={(personId) => onView({ personId })}
          />
          {below}
        </>
      )}
      {view.pane === 'checks' && <ChecksPane letter={letter} sequenceId={sequenceId} onSetAside={onSetAside} onJump={onJump} />}
      {view.pane === 'versions' && <VersionsPane on={restoring} />}
    </aside>
  )
}
