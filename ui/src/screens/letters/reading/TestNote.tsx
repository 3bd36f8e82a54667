import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { ApiProblem, api, ask, type Shape } from '../../../api/client'
import { useSession } from '../../../app/session'
import { ErrorNote } from '../../../parts/States'
import { TestDialog } from './TestDialog'
import { testState, useTests } from './useTests'

type Reader = Pick<Shape<'Merged'>, 'person_id' | 'person'>

/**
 * Sends a test of a letter to oneself in one move, written as the person that is looked at would get it.
 *
 * @param saved saves what was typed
 */
export function useSendTest(letterId: number, saved: () => Promise<boolean>) {
  const client = useQueryClient()
  const { account } = useSession()
  const [reader, setReader] = useState<Reader | null>(null)
  const send = useMutation({
    mutationFn: async (as: Reader) => {
      if (!(await saved()))
        throw new ApiProblem(0, 'not_saved', 'What you wrote is not saved yet: a test would have the words before.')
      return ask(
        api.POST('/api/letters/{id}/tests', {
          params: { path: { id: letterId } },
          body: { person_id: as.person_id, to: [account.id] },
        }),
      )
    },
    onSuccess: () => client.invalidateQueries({ queryKey: ['tests', letterId] }),
  })
  return {
    reader,
    error: send.error,
    isPending: send.isPending,
    test: (as: Reader) => {
      setReader(as)
      send.mutate(as)
    },
    forget: () => setReader(null),
  }
}

/** What became of the test, and a way to send it to colleagues. */
export function TestNote({ letterId, on }: { letterId: number; on: ReturnType<typeof useSendTest> }) {
  const [asking, setAsking] = useState(false)
  const { data } = useTests(letterId)
  const { reader } = on
  if (!reader) return null
  const test = on.isPending ? undefined : data?.[0]
  return (
    <>
      {on.error && <ErrorNote error={on.error} />}
      {!on.error && (
        <p role="status" className="bg-[var(--merged)] px-3 py-1.5 mb-3 flex gap-3 items-baseline">
          <span className="grow">
            Test to {test?.address ?? 'you'}, as {reader.person} would get it: {test ? testState(test) : 'on its way'}.
          </span>
          {test?.practice_letter_id && (
            <Link to={`/practice-post/${test.practice_letter_id}`} className="text-primary font-semibold whitespace-nowrap">
              Read it
            </Link>
          )}
          <button type="button" className="quiet-word" onClick={() => setAsking(true)}>
            To colleagues…
          </button>
          <button type="button" className="quiet-word" onClick={on.forget}>
            Fine
          </button>
        </p>
      )}
      {asking && <TestDialog letterId={letterId} person={reader} onClose={() => setAsking(false)} />}
    </>
  )
}
