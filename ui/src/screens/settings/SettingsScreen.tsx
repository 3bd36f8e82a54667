import { Link } from 'react-router'
import { useSession, useSignIn } from '../../app/session'
import { useTheme } from '../../app/theme'
import { Header } from '../../parts/Header'
import { DateOrder } from './DateOrder'
import { DealStages } from './DealStages'
import { DoNotMail } from './DoNotMail'
import { LetterLook } from './LetterLook'
import { Mailboxes } from './Mailboxes'
import { OwnFields } from './OwnFields'
import { Signatures } from './Signatures'
import { Tags } from './Tags'

/** Mailboxes, the firm's own fields and words, the do-not-mail list, the look of the page, and the way out. */
export function SettingsScreen() {
  const session = useSession()
  const { signOut } = useSignIn()
  const [theme, setTheme] = useTheme()
  return (
    <>
      <Header
        title="Settings"
        actions={
          <Link to="/settings/sign-in" className="btn btn-sm btn-plain">
            Sign-in and safety
          </Link>
        }
      />
      <Mailboxes admin={session.account.role === 'admin'} me={session.account.id} />
      <Signatures />
      <LetterLook admin={session.account.role === 'admin'} firm={session.firm.name} />
      <OwnFields admin={session.account.role === 'admin'} />
      <DealStages admin={session.account.role === 'admin'} />
      <Tags />
      <DoNotMail admin={session.account.role === 'admin'} />
      <DateOrder admin={session.account.role === 'admin'} />
      <section className="mb-8 max-w-3xl">
        <h2 className="border-b border-base-300 pb-1 mb-3">This page</h2>
        <div className="flex gap-2" role="group" aria-label="Look">
          {(['desk', 'night'] as const).map((one) => (
            <button
              key={one}
              type="button"
              aria-pressed={theme === one}
              className={`btn btn-sm btn-plain ${theme === one ? '!border-primary text-primary' : ''}`}
              onClick={() => setTheme(one)}
            >
              {one === 'desk' ? 'Light' : 'Dark'}
            </button>
          ))}
        </div>
      </section>
      <section className="max-w-3xl">
        <h2 className="border-b border-base-300 pb-1 mb-3">You</h2>
        <p className="mb-3">
          {session.account.name}, {session.account.email} <span className="muted">· {session.account.role}</span>
        </p>
        <div className="flex gap-2">
          <Link to="/settings/sign-in" className="btn btn-sm btn-plain">
            Password and sign-ins
          </Link>
          <button type="button" className="btn btn-sm btn-plain" onClick={() => signOut()}>
            Sign out
          </button>
        </div>
      </section>
    </>
  )
}
