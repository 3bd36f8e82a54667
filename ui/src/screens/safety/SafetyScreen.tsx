import { useSession } from '../../app/session'
import { Header } from '../../parts/Header'
import { Colleagues } from './Colleagues'
import { Password } from './Password'
import { SafetyLog } from './SafetyLog'
import { Sessions } from './Sessions'

/** One's own password and sign-ins; for admins, who works here and what matters to safety. */
export function SafetyScreen() {
  const { account, firm } = useSession()
  return (
    <>
      <Header title="Sign-in and safety" over={{ to: '/settings', words: 'Settings' }} />
      <Password />
      <Sessions timeZone={firm.time_zone} />
      {account.role === 'admin' && <Colleagues />}
      {account.role === 'admin' && <SafetyLog timeZone={firm.time_zone} />}
    </>
  )
}
