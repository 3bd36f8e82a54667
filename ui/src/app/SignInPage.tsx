import { type FormEvent, useState } from 'react'
import type { Shape } from '../api/client'
import { ErrorNote } from '../parts/States'
import { useSignIn } from './session'

export function SignInPage({ session }: { session: Shape<'Session'> }) {
  const { signIn } = useSignIn()
  const [email, setEmail] = useState('')
  const [password, setPassword] = useState('')
  const [error, setError] = useState<unknown>(null)
  const [busy, setBusy] = useState(false)
  const submit = async (event: FormEvent) => {
    event.preventDefault()
    setBusy(true)
    setError(null)
    await signIn(email, password).catch(setError)
    setBusy(false)
  }
  return (
    <main className="min-h-screen flex items-center justify-center p-6">
      <form onSubmit={submit} className="w-80">
        <h1 className="italic text-primary text-4xl mb-1">Nimble Letter</h1>
        <p className="muted mb-6">Letters to people you know, sent with care.</p>
        {error != null && <ErrorNote error={error} />}
        <label className="field-label" htmlFor="email">
          Your address
        </label>
        <input
          id="email"
          type="email"
          autoComplete="username"
          required
          className="text-field mb-3"
          value={email}
          onChange={(event) => setEmail(event.target.value)}
        />
        <label className="field-label" htmlFor="password">
          Password
        </label>
        <input
          id="password"
          type="password"
          autoComplete="current-password"
          required
          className="text-field mb-5"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
        <button type="submit" className="btn btn-primary btn-sm w-full" disabled={busy}>
          Sign in
        </button>
        {session.demo && (
          <p className="muted mt-6 border-t border-base-300 pt-4">
            This is practice mode with the demo firm; nothing leaves this machine.{' '}
            <button
              type="button"
              className="word"
              onClick={() => {
                setEmail(session.demo?.email ?? '')
                setPassword(session.demo?.password ?? '')
              }}
            >
              Fill in Maren’s sign-in
            </button>
          </p>
        )}
      </form>
    </main>
  )
}
