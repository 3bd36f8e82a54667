import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../../api/client'
import { useSession } from '../../../app/session'
import { useCatalogue } from '../../../app/useCatalogue'
import { Modal } from '../../../parts/Modal'
import { ErrorNote } from '../../../parts/States'
import { testState, useTests } from './useTests'

function Tests({ letterId }: { letterId: number }) {
  const { data } = useTests(letterId)
  if (!data?.length) return null
  return (
    <ul className="mt-4 border-t border-base-300">
      {data.map((test) => (
        <li key={test.id} className="flex gap-2 py-1.5 border-b border-base-300/60 text-[13px]">
          <span className="grow">
            To {test.address}, as {test.person}
          </span>
          <span className={test.state === 'failed' ? 'text-error' : test.state === 'sent' ? 'text-success' : 'muted'}>
            {testState(test)}
          </span>
          {test.practice_letter_id && (
            <Link to={`/practice-post/${test.practice_letter_id}`} className="text-primary underline whitespace-nowrap">
              Read it
            </Link>
          )}
        </li>
      ))}
    </ul>
  )
}

/** Sends the letter to oneself or to colleagues, written as one chosen person would get it. */
export function TestDialog({
  letterId,
  person,
  onClose,
}: {
  letterId: number
  person: Pick<Shape<'Merged'>, 'person_id' | 'person'>
  onClose: () => void
}) {
  const client = useQueryClient()
  const { account } = useSession()
  const { data: catalogue } = useCatalogue()
  const [to, setTo] = useState<number[]>([account.id])
  const send = useMutation({
    mutationFn: () =>
      ask(api.POST('/api/letters/{id}/tests', { params: { path: { id: letterId } }, body: { person_id: person.person_id, to } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['tests', letterId] }),
  })
  return (
    <Modal title="Send a test" onClose={onClose}>
      <p className="mb-3">
        Written as <strong className="font-semibold">{person.person}</strong> would get it, marked as a test, and counted nowhere.
      </p>
      {send.error && <ErrorNote error={send.error} />}
      <fieldset>
        <legend className="field-label">To</legend>
        {catalogue?.colleagues.map((colleague) => (
          <label key={colleague.id} className="flex gap-2 items-center py-1">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={to.includes(colleague.id)}
              onChange={(event) => setTo(event.target.checked ? [...to, colleague.id] : to.filter((id) => id !== colleague.id))}
            />
            {colleague.name}
            {colleague.id === account.id && <span className="muted">(you)</span>}
          </label>
        ))}
      </fieldset>
      <div className="flex justify-end gap-2 mt-4">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Close
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={to.length === 0 || send.isPending}
          onClick={() => send.mutate()}
        >
          Send the test
        </button>
      </div>
      <Tests letterId={letterId} />
    </Modal>
  )
}
