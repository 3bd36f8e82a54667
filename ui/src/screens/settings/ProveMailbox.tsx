import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { stale } from '../../app/stale'
import { Modal } from '../../parts/Modal'
import { ErrorNote } from '../../parts/States'

/** A code is sent to the mailbox; whoever reads it there enters it here. */
export function ProveMailbox({ box, onClose }: { box: Shape<'Mailbox'>; onClose: () => void }) {
  const client = useQueryClient()
  const path = { params: { path: { id: box.id } } }
  const [code, setCode] = useState('')
  const send = useMutation({
    mutationFn: () => ask(api.POST('/api/mailboxes/{id}/code', path)),
    onSuccess: () => stale(client, 'mailboxes'),
  })
  const prove = useMutation({
    mutationFn: () => ask(api.POST('/api/mailboxes/{id}/prove', { ...path, body: { code } })),
    onSuccess: () => {
      stale(client, 'mailboxes')
      onClose()
    },
  })
  const sent = send.isSuccess || box.code_sent
  return (
    <Modal title={`Prove ${box.address}`} onClose={onClose}>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          prove.mutate()
        }}
      >
        <p className="mb-3">
          {sent
            ? 'A code is on its way there; it is good for an hour. '
            : 'A code is sent there. Whoever reads it may write from it. '}
          In practice it comes to the{' '}
          <Link to="/practice-post" className="text-primary font-semibold">
            practice post
          </Link>
          .
        </p>
        {(send.error ?? prove.error) != null && <ErrorNote error={send.error ?? prove.error} />}
        <label className="block mb-4">
          <span className="field-label">Code</span>
          <input
            className="text-field !w-36"
            inputMode="numeric"
            autoComplete="one-time-code"
            maxLength={10}
            value={code}
            onChange={(event) => setCode(event.target.value)}
          />
        </label>
        <div className="flex gap-2 justify-end">
          <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
            Not now
          </button>
          <button type="button" className="btn btn-sm btn-plain" disabled={send.isPending} onClick={() => send.mutate()}>
            {sent ? 'Send another' : 'Send the code'}
          </button>
          <button type="submit" className="btn btn-sm btn-primary" disabled={!code.trim() || prove.isPending}>
            Prove it
          </button>
        </div>
      </form>
    </Modal>
  )
}
