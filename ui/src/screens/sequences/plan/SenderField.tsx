import { Check } from 'lucide-react'
import { useState } from 'react'
import type { Shape } from '../../../api/client'
import { useCatalogue } from '../../../app/useCatalogue'
import { Popover } from '../../../parts/Popover'
import { MailboxForm } from '../../settings/MailboxForm'
import type { Change } from '../useChanges'

/** From whom the letters of a draft come: one mailbox, each person’s owner, or the one who starts it. */
export function SenderField({
  sequence,
  className = 'font-semibold border-b border-dashed border-primary cursor-pointer max-w-72 truncate',
  onChange,
}: {
  sequence: Shape<'Sequence'>
  className?: string
  onChange: (change: Change) => void
}) {
  const { data: catalogue } = useCatalogue()
  const [mailbox, setMailbox] = useState(false)
  return (
    <>
      <Popover words={sequence.sender_words} label="From whom" className={className}>
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
                {sequence.sender.mailbox_id === box.id && <Check className="mark" role="img" aria-label="chosen" />} {box.address}{' '}
                {!box.proved && <span className="text-error">not proved</span>}
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
      {mailbox && <MailboxForm box={null} onClose={() => setMailbox(false)} />}
    </>
  )
}
