import { lazy, Suspense } from 'react'
import { Route, Routes } from 'react-router'
import { ErrorNote, Loading } from '../parts/States'
import { LettersScreen } from '../screens/letters/LettersScreen'
import { PeopleScreen } from '../screens/people/PeopleScreen'
import { PersonScreen } from '../screens/person/PersonScreen'
import { RepliesScreen } from '../screens/replies/RepliesScreen'
import { ResultsScreen } from '../screens/results/ResultsScreen'
import { SequenceScreen } from '../screens/sequences/SequenceScreen'
import { SequencesScreen } from '../screens/sequences/SequencesScreen'
import { SettingsScreen } from '../screens/settings/SettingsScreen'
import { StackScreen } from '../screens/stack/StackScreen'
import { TodayScreen } from '../screens/today/TodayScreen'
import { KeysProvider } from './keys'
import { Shell } from './Shell'
import { SignInPage } from './SignInPage'
import { isSignedIn, SessionProvider, useSessionQuery } from './session'

// The editor is the heaviest part; it comes when a letter is opened.
const LetterScreen = lazy(async () => ({ default: (await import('../screens/letters/LetterScreen')).LetterScreen }))

/** The whole application: signed out, the way in; signed in, the shell around a screen. */
export function App() {
  const { data: session, error, refetch } = useSessionQuery()
  if (error)
    return (
      <div className="max-w-lg mx-auto mt-40">
        <ErrorNote error={error} retry={refetch} />
      </div>
    )
  if (!session) return null
  if (!isSignedIn(session)) return <SignInPage session={session} />
  return (
    <SessionProvider session={session}>
      <KeysProvider>
        <Shell>
          <Suspense fallback={<Loading />}>
            <Routes>
              <Route index element={<TodayScreen />} />
              <Route path="people" element={<PeopleScreen />} />
              <Route path="people/:id" element={<PersonScreen />} />
              <Route path="letters" element={<LettersScreen />} />
              <Route path="letters/:id" element={<LetterScreen />} />
              <Route path="sequences" element={<SequencesScreen />} />
              <Route path="sequences/:id" element={<SequenceScreen />} />
              <Route path="sequences/:id/:tab" element={<SequenceScreen />} />
              <Route path="stack/:stepId" element={<StackScreen />} />
              <Route path="replies" element={<RepliesScreen />} />
              <Route path="results" element={<ResultsScreen />} />
              <Route path="settings" element={<SettingsScreen />} />
              <Route path="*" element={<h1>There is no such page</h1>} />
            </Routes>
          </Suspense>
        </Shell>
      </KeysProvider>
    </SessionProvider>
  )
}
