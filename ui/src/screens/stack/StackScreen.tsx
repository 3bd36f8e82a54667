import { useMutation, useQueries, useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { api, ask } from '../../api/client'
import { moment } from '../../app/format'
import { useKeys } from '../../app/keys'
import { useSession } from '../../app/session'
import { Header } from '../../parts/Header'
import { InboxLine } from '../../parts/InboxLine'
import { LetterFrame } from '../../parts/LetterFrame'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { MendGap } from './MendGap'
import { isShown, nextGap, type Only } from './marks'
import { PersonAside } from './PersonAside'
import { PersonalLine } from './PersonalLine'
import { StackList } from './StackList'

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
  const [only, setOnly] = useState<Only>('all')
  const [shownAt, setShownAt] = useState(0)
  const { data: stack, error } = useQuery({
    queryKey: ['stack', stepId],
    queryFn: () => ask(api.GET('/api/steps/{id}/stack', { params: { path: { id: stepId } } })),
  })
  const rows = useMemo(() => (stack?.rows ?? []).filter((one) => isShown(one, only)), [stack, only])
  const row = rows[Math.min(at, rows.length - 1)]
  const letterKey = ['stack', stepId, row?.person_id] as const
  const { data: letter, error: letterError } = useQuery({
    queryKey: letterKey,
    queryFn: () =>
      ask(api.GET('/api/steps/{id}/stack/{person_id}', { params: { path: { id: stepId, person_id: row?.person_id ?? 0 } } })),
    enabled: Boolean(row),
  })
  // The letters on both sides are fetched ahead, so that leafing shows each person's own at once.
  const beside = [rows[at + 1]?.person_id, rows[at + 2]?.person_id, rows[at - 1]?.person_id].filter((id) => id !== undefined)
  useQueries({
    queries: beside.map((id) => ({
      queryKey: ['stack', stepId, id],
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
      client.invalidateQueries({ queryKey: ['stack', stepId], exact: true })
      setWriting(false)
      setShownAt((now) => now + 1)
    },
  })
  const go = (to: number) => {
    setAt(Math.max(0, Math.min(rows.length - 1, to)))
    setWriting(false)
    setGap(null)
  }
  const toNextGap = () => {
    const next = nextGap(rows, at)
    if (next >= 0) go(next)
  }
  useKeys([
    { key: 'j', words: 'Next letter', run: () => go(at + 1) },
    { key: 'k', words: 'Letter before', run: () => go(at - 1) },
    { key: 'g', words: 'Next gap', run: toNextGap },
    { key: 'e', words: 'Write a line into this one', run: () => setWriting(true) },
    { key: 'b', words: 'Back to the plan', run: () => navigate(`/sequences/${stack?.sequence.id}`) },
  ])
  if (error) return <ErrorNote error={error} />
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
      {row && (
        <div className="grid grid-cols-[262px_minmax(0,1fr)_212px] gap-5 items-start">
          <StackList
            stack={stack}
            rows={rows}
            at={Math.min(at, rows.length - 1)}
            only={only}
            onOnly={(chosen) => {
              setOnly(chosen)
              setAt(0)
            }}
            onGo={go}
          />
          <div className="min-w-0">
            {letterError && <ErrorNote error={letterError} />}
            {!letter && !letterError && <Loading />}
            {letter && (
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
          <PersonAside
            personId={row.person_id}
            when={when}
            mailbox={letter?.mailbox?.address}
            state={row.state}
            view={view}
            onView={setView}
            onWrite={() => setWriting(true)}
          />
        </div>
      )}
    </>
  )
}
