import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { postAuth, readSession, useSession } from '../../app/session'
import { stale } from '../../app/stale'
import { ErrorNote } from '../../parts/States'

const LEAST = 12

/** Another password for oneself; it ends all other sign-ins. */
export function Password() {
  const client = useQueryClient()
  const { account } = useSession()
  const [now, setNow] = useState('')
  const [next, setNext] = useState('')
  const change = useMutation({
    mutationFn: async () => {
      await postAuth('change-password', { password: now, new_password: next })
      await readSession()
    },
    onSuccess: () => {
      setNow('')
      setNext('')
      stale(client, 'safety')
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    change.mutate()
  }
  return (
    <section className="mb-8 max-w-3xl">
      <h2 className="border-b border-base-300 pb-1 mb-3">Your password</h2>
      <form onSubmit={submit}>
        <input type="hidden" name="username" autoComplete="username" value={account.email ?? ''} />
        <div className="flex flex-wrap gap-3 items-end">
          <label className="w-60">
            <span className="field-label">The one you have</span>
            <input
              type="password"
              autoComplete="current-password"
              required
              className="text-field"
              value={now}
              onChange={(event) => setNow(event.target.value)}
            />
          </label>
          <label className="w-60">
            <span className="field-label">A new one</span>
            <input
              type="password"
              autoComplete="new-password"
              required
              minLength={LEAST}
              className="text-field"
              value={next}
              onChange={(event) => setNext(event.target.value)}
            />
          </label>
          <button type="submit" className="btn btn-sm btn-plain" disabled={change.isPending}>
            Change it
          </button>
        </div>
        <p className="muted text-xs mt-2">
          At least {LEAST} characters; several words that only you put together are good. It ends all your other sign-ins.
        </p>
        {change.error && <ErrorNote error={change.error} />}
        {change.isSuccess && (
          <p role="status" className="text-success mt-2">
            Your password is changed.
          </p>
        )}
      </form>
    </section>
  )
}
