import type { Shape } from '../../../api/client'
import { moment, plural } from '../../../app/format'
import { useSession } from '../../../app/session'
import { Modal } from '../../../parts/Modal'
import { ErrorNote, Loading } from '../../../parts/States'
import { OpensPeople } from '../../people/behind/OpensPeople'
import type { ReadBack } from '../../sequences/useSequence'
import { behindAudience } from './behindAudience'
import { Keeps } from './Leaves'
import { useReady } from './useReady'

/** What has to be mended first. */
function Missing({ ready }: { ready: Shape<'Ready'> }) {
  return (
    <ul className="mb-2">
      {ready.remarks
        .filter((remark) => remark.blocking)
        .map((remark) => (
          <li key={`${remark.code}${remark.words}`} className="border-l-2 border-error pl-3 mb-2">
            {remark.words}
          </li>
        ))}
    </ul>
  )
}

/** What sending does, read back in a sentence with its numbers; only then it is done. */
export function SendDialog({
  sequence,
  send,
  onClose,
}: {
  sequence: Shape<'Sequence'>
  send: { mutate: (readBack: ReadBack & { undo: true }) => void; isPending: boolean; error: unknown }
  onClose: () => void
}) {
  const { firm } = useSession()
  const { data, error } = useReady(sequence.id)
  const going = data ? data.letters - data.waiting : 0
  return (
    <Modal title={data?.ready === false ? 'Not ready yet' : `Send “${sequence.name}”?`} onClose={onClose}>
      {(error || send.error != null) && <ErrorNote error={error ?? send.error} />}
      {!data && !error && <Loading lines={3} />}
      {data && !data.ready && <Missing ready={data} />}
      {data?.ready && data.first_at && data.last_at && (
        <>
          <p className="font-serif text-lg leading-7 mb-3">
            <strong className="font-semibold">{plural(data.letters, 'letter')}</strong> to{' '}
            <OpensPeople
              title={`Would get “${sequence.name}”`}
              count={data.people}
              queryKey={['ready', sequence.id, 'people']}
              load={behindAudience(sequence.audience, 'would_get_it', sequence.id)}
            >
              {plural(data.people, 'person', 'people')}
            </OpensPeople>{' '}
            from {sequence.sender_words}
            {data.letters === 1 ? (
              <>
                , on <strong className="font-semibold">{moment(data.first_at, firm.time_zone)}</strong>.
              </>
            ) : (
              <>
                , the first on <strong className="font-semibold">{moment(data.first_at, firm.time_zone)}</strong>, the last on{' '}
                <strong className="font-semibold">{moment(data.last_at, firm.time_zone)}</strong>.
              </>
            )}
          </p>
          {data.waiting > 0 && (
            <p className="mb-3">
              {plural(data.waiting, 'of them has', 'of them have')} a gap and {data.waiting === 1 ? 'waits' : 'wait'} under Today
              until it is filled. The other {plural(going, 'leaves', 'leave')}.
            </p>
          )}
          {data.remarks
            .filter((remark) => remark.code !== 'gaps')
            .map((remark) => (
              <p key={`${remark.code}${remark.words}`} className="bg-[var(--gap)] px-3 py-2 mb-2">
                {remark.words}
              </p>
            ))}
          <Keeps sequenceId={sequence.id} keeps={data.keeps} />
          <p className="muted">For ten seconds you can take it back.</p>
        </>
      )}
      <div className="mt-5 flex justify-end gap-2">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          {data?.ready ? 'Not now' : 'Close'}
        </button>
        {data?.ready && (
          <button
            type="button"
            data-first
            // biome-ignore lint/a11y/noAutofocus: Enter sends what was read back, which may come after the question
            autoFocus
            className="btn btn-sm btn-primary"
            disabled={send.isPending}
            onClick={() => send.mutate({ ...data, undo: true })}
          >
            Send {going === data.letters ? '' : 'the other '}
            {plural(going, 'letter')}
          </button>
        )}
      </div>
    </Modal>
  )
}
