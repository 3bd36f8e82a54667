import { useMutation, useQueries, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import { api, ask } from '../../api/client'
import { inTheWay } from '../../app/away'
import { moment } from '../../app/format'
import { useKeys } from '../../app/keys'
import { useSession } from '../../app/session'
import { Header } from '../../parts/Header'
import { InboxLine } from '../../parts/InboxLine'
import { LetterFrame } from '../../parts/LetterFrame'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { MendGap } from './MendGap'
import type { Only } from './marks'
import { PersonAside } from './PersonAside'
import { PersonalLine } from './PersonalLine'
import { StackList } from './StackList'
import { nextGap, useStack } from './useStack'

/** The real letters, one a person, leafed through with the keyboard. */
export function StackScreen() {
  const stepId = Number(useParams().stepId)
  const navigate = useNavigate()
  const client = useQueryClient()
  const { firm } = useSession()
  const [at, setAt] = useState(0)
  const [view, setView] = useState<'desk' | 'phone' | 'text'>('desk')
  const [writing, setWriting] = useState(false)
  const [gap, setGap] = useState<string | null>(null)
  // Who comes to fill gaps finds those letters, and the first gap open.
  const filling = useSearchParams()[0].has('gaps')
  const [opened, setOpened] = useState(!filling)
  const [only, setOnly] = useState<Only>(filling ? 'gaps' : 'all')
  const [shownAt, setShownAt] = useState(0)
  const { stack, error, rowAt, onSight } = useStack(stepId, only, at)
  const last = Math.max(0, (stack?.shown ?? 0) - 1)
  const place = Math.min(at, last)
  const row = rowAt(place)
  const letterKey = ['stack', stepId, 'letter', row?.person_id] as const
  const { data: letter, error: letterError } = useQuery({
    queryKey: letterKey,
    queryFn: () =>
      ask(api.GET('/api/steps/{id}/stack/{person_id}', { params: { path: { id: stepId, person_id: row?.person_id ?? 0 } } })),
    enabled: Boolean(row),
  })
  const firstGap = letter?.gaps[0]?.field
  useEffect(() => {
    if (opened || !firstGap) return
    setOpened(true)
    setGap(firstGap)
  }, [opened, firstGap])
  // None is left to fill: here are all of them.
  const filled = filling && only === 'gaps' && stack?.shown === 0
  useEffect(() => {
    if (filled) setOnly('all')
  }, [filled])
  // The letters on both sides are fetched ahead, so that leafing shows each person's own at once.
  const beside = [at + 1, at + 2, at - 1].map((one) => rowAt(one)?.person_id).filter((id) => id !== undefined)
  useQueries({
    queries: beside.map((id) => ({
      queryKey: ['stack', stepId, 'letter', id] as const,
      queryFn: () => ask(api.GET('/api/steps/{id}/stack/{person_id}', { params: { path: { id: stepId, person_id: id } } })),
    })),
  })
  const line = useMutation({
    mutationFn: ({ words, after }: { words: string; after: string | null }) =>
      ask(
        api.PUT('/api/steps/{id}/stack/{person_id}', {
          params: { path: { id: stepId, person_id: row?.person_id ?? 0 } },
          body: { line: words, after },
        }),
      ),
    onSuccess: (saved) => {
      client.setQueryData(letterKey, saved)
      client.invalidateQueries({ queryKey: ['stack', stepId, only] })
      setWriting(false)
      setShownAt((now) => now + 1)
    },
  })
  const go = (to: number) => {
    setAt(Math.max(0, Math.min(last, to)))
    setWriting(false)
    setGap(null)
  }
  const toNextGap = () => {
    // Of those that have one the next is the one below.
    if (only === 'gaps') go(at === last ? 0 : at + 1)
    else nextGap(stepId, only === 'all' ? at : -1).then(toGap)
  }
  const toGap = (found: number | null) => {
    if (found === null) return
    setOnly('all')
    setAt(found)
    setWriting(false)
    setGap(null)
  }
  useKeys([
    { key: 'j', words: 'Next letter', run: () => go(at + 1) },
    { key: 'k', words: 'Letter before', run: () => go(at - 1) },
    { key: 'g', words: 'Next gap', run: toNextGap },
    { key: 'e', words: 'Write a line into this one', run: () => setWriting(true) },
    { key: 'b', words: 'Back to the plan', leaves: true, run: () => navigate(`/sequences/${stack?.sequence.id}`) },
  ])
  if (inTheWay(error, stack)) return <ErrorNote error={error} />
  if (!stack) return <Loading />
  const goesAt = letter?.goes_at ?? row?.goes_at
  const when = goesAt ? moment(goesAt, letter?.time_zone ?? firm.time_zone) : undefined
  return (
    <>
      <Header
        over={{
          to: `/sequences/${stack.sequence.id}`,
          words: `${stack.sequence.name} · step ${stack.step.position} of ${stack.step.of}`,
        }}
        title={stack.step.letter}
        actions={
          <p className="text-xs muted whitespace-nowrap">
            <kbd className="key">J</kbd> <kbd className="key">K</kbd> next, before <kbd className="key ml-2">E</kbd> write to this
            one <kbd className="key ml-2">G</kbd> next gap
          </p>
        }
      />
      {stack.total === 0 && <Empty>Nobody would get this letter yet. Choose an audience first.</Empty>}
      {stack.total > 0 && (
        <div className="grid grid-cols-[262px_minmax(0,1fr)_212px] gap-5 items-start">
          <StackList
            stack={stack}
            rowAt={rowAt}
            at={place}
            only={only}
            onOnly={(chosen) => {
              setOnly(chosen)
              setAt(0)
            }}
            onGo={go}
            onSight={onSight}
          />
          <div className="min-w-0">
            {letterError && <ErrorNote error={letterError} />}
            {stack.shown === 0 && <Empty>None of these letters any more.</Empty>}
            {!letter && !letterError && stack.shown > 0 && <Loading />}
            {row && letter && (
              <>
                <InboxLine letter={letter} when={when} />
                <div className="mt-2.5">
                  {writing && (
                    <PersonalLine
                      line={letter.line ?? ''}
                      after={letter.line_after ?? null}
                      places={letter.places ?? []}
                      saving={line.isPending}
                      error={line.error}
                      onSave={(words, after) => line.mutate({ words, after })}
                      onClose={() => setWriting(false)}
                    />
                  )}
                  {gap && <MendGap stepId={stepId} personId={row.person_id} field={gap} onClose={() => setGap(null)} />}
                  {letter.line_lost && (
                    <p className="border-l-2 border-error bg-[var(--gap)] px-3 py-2 mb-2.5 flex gap-3">
                      <span className="grow">
                        The letter has changed: the place of your line is gone, so it stands after the first words.
                      </span>
                      <button type="button" className="btn btn-xs btn-plain" onClick={() => setWriting(true)}>
                        Give it a place
                      </button>
                    </p>
                  )}
                  {letter.unanswered && (
                    <p className="text-accent text-xs mb-2">{letter.unanswered}; its fields are empty for now.</p>
                  )}
                  {view === 'text' ? (
                    <pre className="sheet px-9 py-7 whitespace-pre-wrap font-mono text-[13px]">{letter.text}</pre>
                  ) : (
                    <LetterFrame
                      phone={view === 'phone'}
                      onGap={setGap}
                      src={`/api/steps/${stepId}/stack/${row.person_id}/shown?v=${shownAt}.${letter.line ?? ''}.${letter.text.length}`}
                    />
                  )}
                </div>
              </>
            )}
          </div>
          {row && (
            <PersonAside
              personId={row.person_id}
              when={when}
              mailbox={letter?.mailbox?.address}
              state={row.state}
              view={view}
              onView={setView}
              onWrite={() => setWriting(true)}
            />
          )}
        </div>
      )}
    </>
  )
}
