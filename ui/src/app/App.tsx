import { lazy, Suspense } from 'react'
import { Route, Routes } from 'react-router'
import { ErrorNote, Loading } from '../parts/States'
import { BinScreen } from '../screens/bin/BinScreen'
import { CompaniesScreen } from '../screens/companies/CompaniesScreen'
import { CompanyScreen } from '../screens/companies/CompanyScreen'
import { DoublesScreen } from '../screens/doubles/DoublesScreen'
import { FileScreen } from '../screens/files/FileScreen'
import { FilesScreen } from '../screens/files/FilesScreen'
import { LettersScreen } from '../screens/letters/library/LettersScreen'
import { ListsScreen } from '../screens/lists/ListsScreen'
import { ActOnThem } from '../screens/people/behind/ActOnThem'
import { ActsContext } from '../screens/people/behind/acts'
import { PeopleScreen } from '../screens/people/PeopleScreen'
import { PersonScreen } from '../screens/person/PersonScreen'
import { PicturesScreen } from '../screens/pictures/PicturesScreen'
import { PracticePostScreen } from '../screens/practice-post/PracticePostScreen'
import { RepliesScreen } from '../screens/replies/RepliesScreen'
import { ResultsScreen } from '../screens/results/ResultsScreen'
import { SafetyScreen } from '../screens/safety/SafetyScreen'
import { SequencesScreen } from '../screens/sequences/library/SequencesScreen'
import { SequenceScreen } from '../screens/sequences/SequenceScreen'
import { SetAsideScreen } from '../screens/set-aside/SetAsideScreen'
import { SettingsScreen } from '../screens/settings/SettingsScreen'
import { StackScreen } from '../screens/stack/StackScreen'
import { TodayScreen } from '../screens/today/TodayScreen'
import { inTheWay } from './away'
import { ChangesProvider } from './ChangesProvider'
import { KeysProvider } from './keys'
import { Mishap } from './Mishap'
import { PasswordAgain } from './PasswordAgain'
import { Shell } from './Shell'
import { SignInPage } from './SignInPage'
import { isSignedIn, SessionProvider, useSessionQuery } from './session'

// The editor is the heaviest part; it comes when a letter is opened.
const PassagesScreen = lazy(async () => ({ default: (await import('../screens/passages/PassagesScreen')).PassagesScreen }))
const LetterScreen = lazy(async () => ({ default: (await import('../screens/letters/desk/LetterScreen')).LetterScreen }))

/** The whole application: signed out, the way in; signed in, the shell around a screen. */
export function App() {
  const { data: session, error, refetch } = useSessionQuery()
  if (inTheWay(error, session))
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
        <ChangesProvider>
          <ActsContext.Provider value={ActOnThem}>
            <Shell>
              <Mishap>
                <Suspense fallback={<Loading />}>
                  <Routes>
                    <Route index element={<TodayScreen />} />
                    <Route path="people" element={<PeopleScreen />} />
                    <Route path="people/:id" element={<PersonScreen />} />
                    <Route path="companies" element={<CompaniesScreen />} />
                    <Route path="companies/:id" element={<CompanyScreen />} />
                    <Route path="lists" element={<ListsScreen />} />
                    <Route path="doubles" element={<DoublesScreen />} />
                    <Route path="files" element={<FilesScreen />} />
                    <Route path="files/:id" element={<FileScreen />} />
                    <Route path="bin" element={<BinScreen />} />
                    <Route path="letters" element={<LettersScreen />} />
                    <Route path="letters/:id" element={<LetterScreen />} />
                    <Route path="passages" element={<PassagesScreen />} />
                    <Route path="pictures" element={<PicturesScreen />} />
                    <Route path="practice-post" element={<PracticePostScreen />} />
                    <Route path="practice-post/:id" element={<PracticePostScreen />} />
                    <Route path="sequences" element={<SequencesScreen />} />
                    <Route path="sequences/:id" element={<SequenceScreen />} />
                    <Route path="sequences/:id/:tab" element={<SequenceScreen />} />
                    <Route path="stack/:stepId" element={<StackScreen />} />
                    <Route path="replies" element={<RepliesScreen />} />
                    <Route path="set-aside" element={<SetAsideScreen />} />
                    <Route path="results" element={<ResultsScreen />} />
                    <Route path="settings" element={<SettingsScreen />} />
                    <Route path="settings/sign-in" element={<SafetyScreen />} />
                    <Route path="*" element={<h1>There is no such page</h1>} />
                  </Routes>
                </Suspense>
              </Mishap>
              <PasswordAgain />
            </Shell>
          </ActsContext.Provider>
        </ChangesProvider>
      </KeysProvider>
    </SessionProvider>
  )
}
