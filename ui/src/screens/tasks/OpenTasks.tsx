import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { shortDate } from '../../app/format'
import { stale } from '../../app/stale'
import { useNow } from '../../app/usePost'
import { Popover } from '../../parts/Popover'
import { ErrorNote } from '../../parts/States'

type Task = Shape<'Task'>

/** What is to be done, soonest first; each is done here, with what came of it. Nothing is shown where nothing is open. */
export function useOpenTasks(of: { mine?: true; person_id?: number }) {
  return useInfiniteQuery({
    queryKey: ['tasks', of],
    queryFn: ({ pageParam }) =>
      ask(api.GET('/api/tasks', { params: { query: { state: 'open', ...of, ...(pageParam ? { after: pageParam } : {}) } } })),
    initialPageParam: 0,
    getNextPageParam: (page) => page.next_after ?? undefined,
  })
}

/** The rows of those tasks. */
export function OpenTasks({ query, person = true }: { query: ReturnType<typeof useOpenTasks>; person?: boolean }) {
  return (
    <>
      {query.error && <ErrorNote error={query.error} />}
      {query.data?.pages
        .flatMap((page) => page.tasks)
        .map((task) => (
          <OneTask key={task.id} task={task} person={person} />
        ))}
      {query.hasNextPage && (
        <button type="button" className="btn btn-xs btn-plain mt-2" onClick={() => query.fetchNextPage()}>
          More
        </button>
      )}
    </>
  )
}

function OneTask({ task, person }: { task: Task; person: boolean }) {
  const now = useNow()
  const late = task.due_on != null && task.due_on < now.slice(0, 10)
  return (
    <div className="flex items-center gap-3 py-2 border-b border-base-300/60 px-1">
      <span className="grow min-w-0">
        <span className="block truncate">{task.words}</span>
        <span className="muted text-xs block truncate">
          {person && (
            <Link to={`/people/${task.person_id}`} className="font-semibold text-base-content hover:underline">
              {task.person}
            </Link>
          )}
          {person && task.sequence && ' · '}
          {task.sequence && (
            <Link to={`/sequences/${task.sequence_id}`} className="hover:underline">
              {task.sequence}
            </Link>
          )}
          {!person && task.account && ` · ${task.account}`}
          {task.nobodys && (task.account ? `${person ? ` · ${task.account}` : ''}, who cannot sign in any more` : ' · nobody’s')}
        </span>
      </span>
      {task.due_on && (
        <span className={`text-xs whitespace-nowrap ${late ? 'text-error font-semibold' : 'muted'}`}>
          {late ? 'was due ' : 'by '}
          {shortDate(task.due_on, now)}
        </span>
      )}
      <Popover words="Done…" label={`Done: ${task.words}, ${task.person}`} className="btn btn-xs btn-plain">
        {(shut) => <WhatCame task={task} onDone={shut} />}
      </Popover>
    </div>
  )
}

/** What came of it: one of the firm's own words, with a note. */
function WhatCame({ task, onDone }: { task: Task; onDone: () => void }) {
  const client = useQueryClient()
  const [note, setNote] = useState('')
  const done = useMutation({
    mutationFn: (outcome: string | null) =>
      ask(
        api.PATCH('/api/tasks/{id}', {
          params: { path: { id: task.id } },
          body: { version: task.version, done: true, outcome, note: note.trim() || null },
        }),
      ),
    onSuccess: () => {
      stale(client, 'task')
      onDone()
    },
  })
  return (
    <div className="w-64">
      {done.error && <ErrorNote error={done.error} />}
      <p className="muted text-xs px-1.5 pb-1">What came of it?</p>
      {(task.outcomes ?? []).map((one) => (
        <button
          key={one.key}
          type="button"
          className="block w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200"
          disabled={done.isPending}
          onClick={() => done.mutate(one.key)}
        >
          {one.words}
        </button>
      ))}
      <textarea
        rows={2}
        aria-label="A note about it"
        placeholder="A note, before you choose"
        className="textarea w-full text-sm mt-1 bg-[var(--sheet)]"
        maxLength={2000}
        value={note}
        onChange={(event) => setNote(event.target.value)}
      />
    </div>
  )
}
