import { ApiProblem } from '../../../api/client'
import { ErrorNote } from '../../../parts/States'
import type { Saving } from './useAutosave'

/** What keeps a text from being saved, and the ways on; nothing typed is lost in any of them. */
export function SavingTrouble({
  kind,
  saving,
  onKeepMine,
  onTakeTheirs,
}: {
  kind: 'letter' | 'passage'
  saving: Saving
  onKeepMine: () => void
  onTakeTheirs: () => void
}) {
  if (saving.state !== 'problem') return null
  const { problem } = saving
  if (problem.code === 'changed_meanwhile')
    return (
      <div role="alert" className="border-l-2 border-error bg-[var(--gap)] px-3 py-2 mb-3">
        <p>
          <strong className="font-semibold">
            Somebody else changed this {kind} {saving.overlaps ? 'at the same place' : 'meanwhile'}.
          </strong>{' '}
          Both texts are kept: one becomes the {kind}, the other stays among the versions.
        </p>
        {saving.overlaps?.map(({ mine, theirs }) => (
          <dl key={`${mine}|${theirs}`} className="grid grid-cols-2 gap-4 mt-2 font-serif">
            {(['theirs', 'mine'] as const).map((whose) => (
              <div key={whose}>
                <dt className="field-label font-sans">{whose === 'mine' ? 'Yours' : 'Theirs'}</dt>
                <dd className="line-clamp-4">{(whose === 'mine' ? mine : theirs) || 'nothing'}</dd>
              </div>
            ))}
          </dl>
        ))}
        <p className="mt-2 flex gap-2">
          <button type="button" className="btn btn-xs btn-plain" onClick={onTakeTheirs}>
            Go on with theirs
          </button>
          <button type="button" className="btn btn-xs btn-plain" onClick={onKeepMine}>
            Go on with mine
          </button>
        </p>
      </div>
    )
  if (problem.status === 0 || problem.status >= 500)
    return (
      <ErrorNote
        error={
          new ApiProblem(
            problem.status,
            problem.code,
            'This cannot be saved just now.',
            'What you type is kept on this machine and saved as soon as the server is back.',
          )
        }
      />
    )
  return <ErrorNote error={problem} />
}
