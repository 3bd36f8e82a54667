import { useMutation, useQueries, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useMemo, useRef, useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { moment, number } from '../../app/format'
import { useKeys } from '../../app/keys'
import { useSession } from '../../app/session'
import { Header } from '../../parts/Header'
import { InboxLine, LetterSheet } from '../../parts/LetterView'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { MendGap } from './MendGap'
import { PersonAside } from './PersonAside'
import { PersonalLine } from './PersonalLine'

type Row = Shape<'Stack'>['rows'][number]
const STATE_WORDS: Record<string, string> = { sent: 'sent', failed: 'failed', skipped: 'not sent', in_doubt: 'in doubt' }

function Mark({ row }: { row: Row }) {
  if (row.gaps.length > 0) return <span className="text-error">no {row.gaps[0]?.label.toLowerCase()}</span>
  if (row.personal) return <span className="text-accent font-semibold">personal</span>
  return <span className="muted">{STATE_WORDS[row.state] ?? row.company}</span>
}

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
  const list = useRef<HTMLDivElement>(null)
  const { data: stack, error } = useQuery({
    queryKey: ['stack', stepId],
    queryFn: () => ask(api.GET('/api/steps/{id}/stack', { params: { path: { id: stepId } } })),
  })
  const rows = useMemo(() => stack?.rows ?? [], [stack])
  const row = rows[Math.min(at, rows.length - 1)]
  const letterKey = ['stack', stepId, row?.person_id]
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
    mutationFn: (words: string) =>
      ask(
        api.PUT('/api/steps/{id}/stack/{person_id}', {
          params: { path: { id: stepId, person_id: row?.person_id ?? 0 } },
          body: { line: words },
        }),
      ),
    onSuccess: (saved) => {
      client.setQueryData(letterKey, saved)
      client.invalidateQueries({ queryKey: ['stack', stepId], exact: true })
      setWriting(false)
    },
  })
  const go = (to: number) => {
    setAt(Math.max(0, Math.min(rows.length - 1, to)))
    setWriting(false)
    setGap(null)
  }
  const nextGap = () => {
    const next = rows.findIndex((one, i) => i > at && one.gaps.length > 0)
    go(next === -1 ? rows.findIndex((one) => one.gaps.length > 0) : next)
  }
  useKeys([
    { key: 'j', words: 'Next letter', run: () => go(at + 1) },
    { key: 'k', words: 'Letter before', run: () => go(at - 1) },
    { key: 'g', words: 'Next gap', run: nextGap },
    { key: 'e', words: 'Write a line into this one', run: () => setWriting(true) },
    { key: 'b', words: 'Back to the plan', run: () => navigate(`/sequences/${stack?.sequence.id}`) },
  ])
  // biome-ignore lint/correctness/useExhaustiveDependencies: scrolls when the place changes
  useEffect(() => {
    list.current?.querySelector('[aria-current="true"]')?.scrollIntoView({ block: 'nearest' })
  }, [at, stack])
  if (error) return <ErrorNote error={error} />
  if (!stack) return <Loading />
  const when = letter?.goes_at ? moment(letter.goes_at, letter.time_zone ?? firm.time_zone) : undefined
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
      {rows.length === 0 && <Empty>Nobody would get this letter yet. Choose an audience first.</Empty>}
      {row && (
        <div className="grid grid-cols-[262px_minmax(0,1fr)_212px] gap-5 items-start">
          <div className="border border-base-300 rounded-sm bg-[var(--sheet)] flex flex-col max-h-[calc(100vh-140px)]">
            <p className="flex gap-2 px-2.5 py-2 border-b border-base-300 font-semibold">
              <span className="grow">{number(stack.total)} letters</span>
              {stack.with_gaps > 0 && (
                <span className="text-error">
                  {number(stack.with_gaps)} {stack.with_gaps === 1 ? 'gap' : 'gaps'}
                </span>
              )}
              {stack.personal > 0 && <span className="text-accent">{number(stack.personal)} personal</span>}
            </p>
            <div ref={list} className="overflow-auto">
              {rows.map((one, i) => (
                <button
                  key={one.person_id}
                  type="button"
                  aria-current={one.person_id === row.person_id}
                  onClick={() => go(i)}
                  className={`flex w-full justify-between gap-2 px-2.5 h-[33px] items-center border-b border-base-300/60 text-left border-l-[3px] ${one.person_id === row.person_id ? 'border-l-primary font-semibold' : 'border-l-transparent hover:bg-base-200'}`}
                >
                  <span className="truncate shrink-0 max-w-40">{one.name}</span>
                  <span className="truncate font-normal">
                    <Mark row={one} />
                  </span>
                </button>
              ))}
            </div>
          </div>
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
                      saving={line.isPending}
                      error={line.error}
                      onSave={(words) => line.mutate(words)}
                      onClose={() => setWriting(false)}
                    />
                  )}
                  {gap && <MendGap personId={row.person_id} field={gap} onClose={() => setGap(null)} />}
                  {view === 'text' ? (
                    <pre className="sheet px-9 py-7 whitespace-pre-wrap font-mono text-[13px]">{letter.text}</pre>
                  ) : (
                    <LetterSheet letter={letter} narrow={view === 'phone'} onGap={setGap} />
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
