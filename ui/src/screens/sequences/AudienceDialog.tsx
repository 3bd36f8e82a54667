import { useState } from 'react'
import type { Shape } from '../../api/client'
import { number } from '../../app/format'
import { Modal } from '../../parts/Modal'
import { ErrorNote } from '../../parts/States'
import { useSieve } from '../people/table/usePeople'
import { AudienceEditor } from './AudienceEditor'

/** Changes whom a draft is for, with the count beside it. */
export function AudienceDialog({
  audience,
  onClose,
  onKeep,
}: {
  audience: Shape<'Audience'>
  onClose: () => void
  onKeep: (audience: Shape<'Audience'>) => void
}) {
  const [draft, setDraft] = useState(audience)
  const sieve = useSieve(draft)
  return (
    <Modal wide title="To whom" onClose={onClose}>
      <AudienceEditor audience={draft} onChange={setDraft} />
      {sieve.error && <ErrorNote error={sieve.error} />}
      <div className="flex items-center gap-2 mt-5">
        <p className="grow" aria-live="polite">
          {sieve.data && (
            <>
              <strong className="font-semibold">{number(sieve.data.matching)} match</strong>, {number(sieve.data.would_get_it)}{' '}
              would get it
            </>
          )}
        </p>
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Not now
        </button>
        <button type="button" className="btn btn-sm btn-primary" onClick={() => onKeep(draft)}>
          This is for them
        </button>
      </div>
    </Modal>
  )
}
