import { type FormEvent, useEffect, useRef, useState } from 'react'
import { setAskPassword } from '../api/send'
import { Modal } from '../parts/Modal'
import { ErrorNote } from '../parts/States'
import { postAuth, readSession, useSession, useSignIn } from './session'

type Why = 'signed_out' | 'password_again'

const WORDS: Record<Why, { title: string; text: string; act: string }> = {
  signed_out: {
    title: 'Sign in again',
    text: 'Nothing was done here for a while, or you signed out elsewhere. What you typed is still on the page behind this.',
    act: 'Sign in',
  },
  password_again: {
    title: 'Your password, please',
    text: 'What you are about to do concerns many people or who may work here, and you last gave your password over an hour ago.',
    act: 'Go on',
  },
}
/** Whoever waves it away wants to look at the page first. */
const LEFT_ALONE_MS = 60_000

/** Asks for the password in the middle of something, which then goes on where it was. */
export function PasswordAgain() {
  const { account } = useSession()
  const { signOut } = useSignIn()
  const [why, setWhy] = useState<Why | null>(null)
  const [password, setPassword] = useState('')
  const [error, setError] = useState<unknown>(null)
  const [busy, setBusy] = useState(false)
  const answer = useRef<(given: boolean) => void>(() => undefined)
  const leftAt = useRef(Number.NEGATIVE_INFINITY)
  useEffect(() => {
    setAskPassword((reason) => {
      if (reason === 'signed_out' && Date.now() - leftAt.current < LEFT_ALONE_MS) return Promise.resolve(false)
      setWhy(reason)
      return new Promise((resolve) => {
        answer.current = resolve
      })
    })
    return () => setAskPassword(null)
  }, [])
  if (!why) return null

  const close = (given: boolean) => {
    if (!given && why === 'signed_out') leftAt.current = Date.now()
    setWhy(null)
    setPassword('')
    setError(null)
    answer.current(given)
  }
  const submit = async (event: FormEvent) => {
    event.preventDefault()
    setBusy(true)
    setError(null)
    try {
      const session = await readSession()
      if (session.account) await postAuth('confirm-password', { password })
      else await postAuth('login', { email: account.email, password })
      await readSession()
      close(true)
    } catch (problem) {
      setError(problem)
    } finally {
      setBusy(false)
    }
  }
  return (
    <Modal title={WORDS[why].title} onClose={() => close(false)}>
      <form onSubmit={submit}>
        <p className="mb-4">{WORDS[why].text}</p>
        {error != null && <ErrorNote error={error} />}
        <input type="hidden" name="username" autoComplete="username" value={account.email ?? ''} />
        <label className="field-label" htmlFor="password-again">
          Password of {account.name}
        </label>
        <input
          id="password-again"
          type="password"
          autoComplete="current-password"
          required
          className="text-field"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
        <div className="flex justify-end gap-2 mt-5">
          {why === 'signed_out' && (
            <button type="button" className="btn btn-sm btn-plain mr-auto" onClick={() => signOut()}>
              Somebody else
            </button>
          )}
          <button type="button" className="btn btn-sm btn-plain" onClick={() => close(false)}>
            Not now
          </button>
          <button type="submit" className="btn btn-sm btn-primary" disabled={busy}>
            {WORDS[why].act}
          </button>
        </div>
      </form>
    </Modal>
  )
}
