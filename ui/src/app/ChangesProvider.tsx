import { useQuery, useQueryClient } from '@tanstack/react-query'
import { type ReactNode, useEffect, useState } from 'react'
import { api, ask } from '../api/client'
import { DoneNote } from '../parts/DoneNote'
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
    <DoneNote
      words={
        <>
          {state === 'undone' ? 'Taken back: ' : state === 'undoing' ? 'Taking back: ' : ''}
          {change.words}.{state === 'undone' ? <TakenBackWords change={change} /> : <StaysOut change={change} />}
        </>
      }
      undo={state === 'done' || state === 'waiting' ? () => back.mutate() : undefined}
      undoing={back.isPending}
      onClose={onClose}
    >
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
    </DoneNote>
  )
}
