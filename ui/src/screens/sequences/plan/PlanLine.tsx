import { useState } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { number, plural } from '../../../app/format'
import { PeopleBehind } from '../../people/behind/PeopleBehind'
import { SievePanel } from '../../people/SievePanel'
import { useSieve } from '../../people/table/usePeople'
import { AudienceDialog } from '../AudienceDialog'
import { WhoLeaves } from '../joining/WhoLeaves'
import type { Change } from '../useChanges'
import { SenderField } from './SenderField'

type Sequence = Shape<'Sequence'>

/** The sieve of a draft's audience; each number opens its people. */
export function AudienceSieve({ audience }: { audience: Shape<'Audience'> }) {
  const sieve = useSieve(audience)
  const [open, setOpen] = useState<{ part: string; words: string } | null>(null)
  return (
    <>
      {sieve.data && <SievePanel sieve={sieve.data} onOpen={(part, words) => setOpen({ part, words })} />}
      {open && (
        <PeopleBehind
          title={open.words}
          queryKey={['sieve', audience, open.part]}
          load={(cursor) => ask(api.POST('/api/audience/people', { body: { audience, part: open.part, cursor } }))}
          onClose={() => setOpen(null)}
        />
      )}
    </>
  )
}

/** The line above the plan: to whom, from whom, and what makes people leave. */
export function PlanLine({
  sequence,
  editable,
  onChange,
  showSieve,
}: {
  sequence: Sequence
  editable: boolean
  onChange: (change: Change) => void
  showSieve: () => void
}) {
  const [audience, setAudience] = useState(false)
  const draft = sequence.state === 'draft'
  // Of nobody there is no number.
  const said = !draft || sequence.audience_said
  const reach = (
    <button type="button" className="underline underline-offset-2 muted" onClick={showSieve}>
      {draft
        ? `${number(sequence.sieve.would_get_it)} of ${number(sequence.sieve.matching)} will get it`
        : plural(sequence.sieve.would_get_it, 'member')}
    </button>
  )
  return (
    <div className="flex flex-wrap gap-x-6 gap-y-1 mb-5">
      <span>
        <span className="muted">To </span>
        {draft ? (
          <button
            type="button"
            aria-label="To whom"
            className="font-semibold border-b border-dashed border-primary cursor-pointer text-left max-w-96 truncate align-bottom"
            onClick={() => setAudience(true)}
          >
            {sequence.audience_words}
          </button>
        ) : (
          <strong className="font-semibold">{sequence.audience_words}</strong>
        )}
        {said && (
          <>
            <span className="muted"> · </span>
            {reach}
          </>
        )}
      </span>
      <span>
        <span className="muted">From </span>
        {draft ? (
          <SenderField sequence={sequence} onChange={onChange} />
        ) : (
          <strong className="font-semibold">{sequence.sender_words}</strong>
        )}
      </span>
      <WhoLeaves sequence={sequence} editable={editable} onChange={onChange} />
      {audience && (
        <AudienceDialog
          audience={sequence.audience}
          onClose={() => setAudience(false)}
          onKeep={(next) => {
            onChange({ audience: next })
            setAudience(false)
          }}
        />
      )}
    </div>
  )
}
