import { Check } from 'lucide-react'
import { useState } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { number, plural } from '../../../app/format'
import { useCatalogue } from '../../../app/useCatalogue'
import { Popover } from '../../../parts/Popover'
import { PeopleBehind } from '../../people/behind/PeopleBehind'
import { SievePanel } from '../../people/SievePanel'
import { useSieve } from '../../people/table/usePeople'
import { MailboxForm } from '../../settings/MailboxForm'
import { AudienceDialog } from '../AudienceDialog'
import { WhoLeaves } from '../joining/WhoLeaves'
import type { Change } from '../useChanges'

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
  const { data: catalogue } = useCatalogue()
  const [audience, setAudience] = useState(false)
  const [mailbox, setMailbox] = useState(false)
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
          <Popover
            words={sequence.sender_words}
            label="From whom"
            className="font-semibold border-b border-dashed border-primary cursor-pointer"
          >
            {(shut) => (
              <div className="w-72">
                <button
                  type="button"
                  className="block w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200"
                  onClick={() => {
                    onChange({ sender: { kind: 'owner', mailbox_id: sequence.sender.mailbox_id } })
                    shut()
                  }}
                >
                  each person’s owner <span className="muted">(or the one below)</span>
                </button>
                <button
                  type="button"
                  className="block w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200"
                  onClick={() => {
                    onChange({ sender: { kind: 'starter', mailbox_id: sequence.sender.mailbox_id } })
                    shut()
                  }}
                >
                  whoever starts it <span className="muted">(or the one below)</span>
                </button>
                {catalogue?.mailboxes.map((box) => (
                  <button
                    key={box.id}
                    type="button"
                    className="block w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200"
                    onClick={() => {
                      onChange({ sender: { kind: sequence.sender.kind, mailbox_id: box.id } })
                      shut()
                    }}
                  >
                    {sequence.sender.mailbox_id === box.id && <Check className="mark" role="img" aria-label="chosen" />}{' '}
                    {box.address} {!box.proved && <span className="text-error">not proved</span>}
                  </button>
                ))}
                <button
                  type="button"
                  className="block w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200 text-primary"
                  onClick={() => {
                    setMailbox(true)
                    shut()
                  }}
                >
                  a new mailbox…
                </button>
                {sequence.sender.kind !== 'mailbox' && (
                  <button
                    type="button"
                    className="block w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200"
                    onClick={() => {
                      onChange({ sender: { kind: 'mailbox', mailbox_id: sequence.sender.mailbox_id } })
                      shut()
                    }}
                  >
                    one mailbox for all
                  </button>
                )}
              </div>
            )}
          </Popover>
        ) : (
          <strong className="font-semibold">{sequence.sender_words}</strong>
        )}
      </span>
      <WhoLeaves sequence={sequence} editable={editable} onChange={onChange} />
      {mailbox && <MailboxForm box={null} onClose={() => setMailbox(false)} />}
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
