import { useQuery, useQueryClient } from '@tanstack/react-query'
import { createContext, type ReactNode, useContext } from 'react'
import { ApiProblem, api, ask, currentCsrf, problemOf, type Shape, setCsrf } from '../api/client'
import { itIs } from './format'

type Session = Shape<'Session'>
type SignedIn = Session & { account: NonNullable<Session['account']>; firm: NonNullable<Session['firm']> }

const SessionContext = createContext<SignedIn | null>(null)

/** Who is signed in; the page's parts are only drawn when somebody is. */
export function useSession(): SignedIn {
  const session = useContext(SessionContext)
  if (!session) throw new Error('useSession is used outside of SessionProvider')
  return session
}

export function SessionProvider({ session, children }: { session: SignedIn; children: ReactNode }) {
  return <SessionContext.Provider value={session}>{children}</SessionContext.Provider>
}

/** Narrows a session to one with somebody in it. */
export function isSignedIn(session: Session | undefined): session is SignedIn {
  return Boolean(session?.account && session.firm)
}

export function useSessionQuery() {
  return useQuery({
    queryKey: ['session'],
    queryFn: readSession,
    staleTime: Number.POSITIVE_INFINITY,
  })
}

/** Signing in and out and the password; Rodauth answers these, so they stand outside of the contract. */
export async function postAuth(path: 'login' | 'logout' | 'change-password' | 'confirm-password', body: object): Promise<void> {
  const response = await fetch(`/auth/${path}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', Accept: 'application/json', 'X-CSRF-Token': currentCsrf() },
    body: JSON.stringify(body),
  }).catch(() => {
    throw new ApiProblem(0, 'no_answer', 'The server does not answer.', 'Try again when it is back.')
  })
  if (!response.ok) throw problemOf(response.status, await response.json().catch(() => undefined))
}

/** The session as the server has it now, with its token kept. */
export async function readSession(): Promise<Session> {
  const session = await ask(api.GET('/api/session'))
  setCsrf(session.csrf)
  itIs(session.now)
  return session
}

export function useSignIn() {
  const client = useQueryClient()
  return {
    signIn: async (email: string, password: string) => {
      // The page may have stood open longer than its token holds.
      await readSession()
      await postAuth('login', { email, password })
      await client.resetQueries()
    },
    // A new page begins a new session; answers still on their way must not mix with it.
    signOut: () => postAuth('logout', {}).finally(() => window.location.assign('/')),
  }
}
