import { useState } from 'react'
import type { Shape } from '../../../api/client'
import { moment } from '../../../app/format'
import { useSession } from '../../../app/session'
import { TakeEffect } from './TakeEffect'

/** That what one sees is proposed and not in effect, by whom, and the two ways out of it. */
export function ProposalBar({
  sequence,
  asItRuns,
  onShow,
  onDiscard,
}: {
  sequence: Shape<'Sequence'>
  /** Whether the plan in effect is shown instead. */
  asItRuns: boolean
  onShow: (asItRuns: boolean) => void
  onDiscard: () => void
}) {
  const { firm, account } = useSession()
  const [asked, setAsked] = useState(false)
  const { proposal } = sequence
  if (!proposal?.proposed)
    return (
      <p className="muted mb-3">
        {sequence.state === 'paused' ? 'It is paused.' : 'It runs.'} What you change here is a proposal, shared with your
        colleagues, until one of you lets it take effect.
      </p>
    )
  const by = proposal.by === account.name ? 'you' : (proposal.by ?? 'a colleague')
  return (
    <section aria-label="What is proposed" className="bg-[var(--merged)] px-3 py-2 mb-3 flex gap-3 items-baseline flex-wrap">
      <span className="grow">
        <strong className="font-semibold">{asItRuns ? 'As it runs now.' : 'Proposed, not in effect.'}</strong> Last changed by{' '}
        {by}
        {proposal.at && <>, {moment(proposal.at, firm.time_zone)}</>}. Nobody on the way is touched by it yet.
      </span>
      <button type="button" className="btn btn-xs btn-plain" onClick={() => onShow(!asItRuns)}>
        {asItRuns ? 'Show what is proposed' : 'Show it as it runs'}
      </button>
      <button type="button" className="btn btn-xs btn-plain" onClick={onDiscard}>
        Discard it
      </button>
      <button type="button" className="btn btn-xs btn-primary" onClick={() => setAsked(true)}>
        Let this take effect…
      </button>
      {asked && <TakeEffect sequence={sequence} onDone={() => setAsked(false)} />}
    </section>
  )
}
