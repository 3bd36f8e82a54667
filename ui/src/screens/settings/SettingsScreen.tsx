import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { useSession, useSignIn } from '../../app/session'
import { useTheme } from '../../app/theme'
import { Header } from '../../parts/Header'
import { ErrorNote, Loading } from '../../parts/States'
import { DateOrder } from './DateOrder'
import { DealStages } from './DealStages'
import { DoNotMail } from './DoNotMail'
import { LetterLook } from './LetterLook'
import { OwnFields } from './OwnFields'
import { Signatures } from './Signatures'
import { Tags } from './Tags'

function MailboxRow({ box, admin }: { box: Shape<'Mailbox'>; admin: boolean }) {
  const client = useQueryClient()
  const limit = useMutation({
    mutationFn: (daily_limit: number) =>
      ask(api.PATCH('/api/mailboxes/{id}', { params: { path: { id: box.id } }, body: { daily_limit } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['mailboxes'] }),
  })
  return (
    <tr>
      <td className="font-semibold">{box.address}</td>
      <td>{box.owner ?? <span className="muted">the firm</span>}</td>
      <td>
        {!box.proved && <span className="text-error">not proved, cannot send</span>}
        {box.proved && !box.rests_until && <span className="text-success">proved</span>}
        {box.proved && box.rests_until && <span className="text-warning">rests, see Today</span>}
      </td>
      <td className="text-right">{box.sent_today}</td>
      <td className="text-right">
        {admin ? (
          <input
            type="number"
            min={1}
            max={2000}
            className="text-field !w-20 text-right"
            aria-label={`Letters a day from ${box.address}`}
            defaultValue={box.daily_limit}
            onBlur={(event) => Number(event.target.value) !== box.daily_limit && limit.mutate(Number(event.target.value))}
          />
        ) : (
          box.daily_limit
        )}
        {limit.error && <ErrorNote error={limit.error} />}
      </td>
    </tr>
  )
}

/** Mailboxes, the firm's own fields and words, the do-not-mail list, the look of the page, and the way out. */
export function SettingsScreen() {
  const session = useSession()
  const { signOut } = useSignIn()
  const [theme, setTheme] = useTheme()
  const { data, error } = useQuery({
    queryKey: ['mailboxes'],
    queryFn: async () => (await ask(api.GET('/api/mailboxes'))).mailboxes,
  })
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
      <section className="mb-8 max-w-3xl">
        <h2 className="border-b border-base-300 pb-1 mb-1">Mailboxes</h2>
        {error && <ErrorNote error={error} />}
        {!data && !error && <Loading lines={4} />}
        {data && (
          <table className="plain w-full">
            <thead>
              <tr>
                <th>Address</th>
                <th>Of</th>
                <th>State</th>
                <th className="!text-right">Sent today</th>
                <th className="!text-right">At most a day</th>
              </tr>
            </thead>
            <tbody>
              {data.map((box) => (
                <MailboxRow key={box.id} box={box} admin={session.account.role === 'admin'} />
              ))}
            </tbody>
          </table>
        )}
        <p className="muted text-xs mt-2">
          The limit leaves room for ordinary mail. What is over it goes on the next working day.
        </p>
      </section>
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
