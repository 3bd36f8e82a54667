import { useQuery, useQueryClient } from '@tanstack/react-query'
import { createContext, type ReactNode, useContext } from 'react'
import { api, ask, problemOf, type Shape, setCsrf } from '../api/client'

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
    queryFn: async () => {
      const session = await ask(api.GET('/api/session'))
      setCsrf(session.csrf)
      return session
    },
    staleTime: Number.POSITIVE_INFINITY,
  })
}

/** Signing in and out; Rodauth answers these, so they stand outside of the contract. */
export function useSignIn() {
  const client = useQueryClient()
  const post = async (path: string, body: object, csrf: string) => {
    const response = await fetch(path, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Accept: 'application/json', 'X-CSRF-Token': csrf },
      body: JSON.stringify(body),
    })
    const answer: unknown = await response.json().catch(() => ({}))
    if (!response.ok) {
      const words = (answer as { error?: unknown }).error
      throw typeof words === 'string' ? new Error(words) : problemOf(response.status, answer)
    }
    if (path === '/auth/login') await client.resetQueries()
  }
  return {
    signIn: (email: string, password: string, csrf: string) => post('/auth/login', { email, password }, csrf),
    // A new page begins a new session; answers still on their way must not mix with it.
    signOut: (csrf: string) => post('/auth/logout', {}, csrf).then(() => window.location.assign('/')),
  }
}
