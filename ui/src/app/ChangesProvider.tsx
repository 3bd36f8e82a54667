import { useQuery, useQueryClient } from '@tanstack/react-query'
import { type ReactNode, useEffect, useState } from 'react'
import { api, ask } from '../api/client'
import { classes } from '../parts/classes'
import { ErrorNote } from '../parts/States'
import { type Change, ChangesContext, useTakeBack } from './changes'
import { number, plural } from './format'
import { stale } from './stale'
import { StaysOut, TakenBackWords } from './TakenBackWords'

/** What was done last to many records: how far it is, and the way back. */
export function ChangesProvider({ children }: { children: ReactNode }) {
  const [id, setId] = useState<number | null>(null)
  const client = useQueryClient()
  return (
    <ChangesContext.Provider
      value={(change) => {
        client.setQueryData(['change', change.id], change)
        setId(change.id)
        stale(client, 'change')
      }}
    >
      {children}
      {id !== null && <ChangeNote key={id} id={id} onClose={() => setId(null)} />}
    </ChangesContext.Provider>
  )
}

const working = (change: Change | undefined) => change && ['waiting', 'running', 'undoing'].includes(change.state)

function ChangeNote({ id, onClose }: { id: number; onClose: () => void }) {
  const client = useQueryClient()
  const { data: change } = useQuery({
    queryKey: ['change', id],
    queryFn: () => ask(api.GET('/api/changes/{id}', { params: { path: { id } } })),
    refetchInterval: (query) => (working(query.state.data) ? 500 : false),
  })
  const back = useTakeBack(id)
  const state = change?.state
  useEffect(() => {
    if (state === 'done' || state === 'undone') stale(client, 'change')
  }, [state, client])
  if (!change) return null
  return (
    <div
      role="status"
      className={classes(
        'fixed bottom-16 left-1/2 -translate-x-1/2 z-40 min-w-80 max-w-xl bg-[var(--strip)]',
        'text-[var(--strip-text)] rounded-sm px-4 py-2.5 shadow-lg',
      )}
    >
      <div className="flex items-center gap-4">
        <p className="grow">
          {state === 'undone' ? 'Taken back: ' : state === 'undoing' ? 'Taking back: ' : ''}
          {change.words}.{state === 'undone' ? <TakenBackWords change={change} /> : <StaysOut change={change} />}
        </p>
        {(state === 'done' || state === 'waiting') && (
          <button
            type="button"
            className="underline underline-offset-4 font-semibold"
            disabled={back.isPending}
            onClick={() => back.mutate()}
          >
            Undo
          </button>
        )}
        <button type="button" aria-label="Close this note" className="opacity-80 hover:opacity-100" onClick={onClose}>
          ×
        </button>
      </div>
      {working(change) && change.total > 0 && (
        <div className="mt-1.5">
          <progress
            className="progress progress-success w-full h-1"
            value={change.handled}
            max={change.total}
            aria-label="How far it is"
          />
          <p className="text-xs opacity-80">
            {number(change.handled)} of {plural(change.total, 'record')}. You can go on; it goes on by itself.
          </p>
        </div>
      )}
      {back.error && <ErrorNote error={back.error} />}
    </div>
  )
}
