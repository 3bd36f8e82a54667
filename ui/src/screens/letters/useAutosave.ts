import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { ApiProblem, api, ask, type Shape } from '../../api/client'

type Draft = { name?: string; subject?: Shape<'Document'>; preview?: Shape<'Document'>; body?: Shape<'Document'> }
export type Saving = { state: 'saved'; at: string } | { state: 'typing' } | { state: 'problem'; problem: ApiProblem }

const PAUSE_MS = 600
const RETRY_MS = 4000

/** Saves a letter as one types. What cannot be saved yet is kept and tried again; a colleague's change is told, not overwritten. */
export function useAutosave(letter: Shape<'Letter'>) {
  const client = useQueryClient()
  const [saving, setSaving] = useState<Saving>({ state: 'saved', at: letter.updated_at })
  const version = useRef(letter.version)
  const waiting = useRef<Draft>({})
  const timer = useRef<number>(0)
  const busy = useRef(false)

  const save = useCallback(async () => {
    if (busy.current || Object.keys(waiting.current).length === 0) return
    const sent = waiting.current
    busy.current = true
    waiting.current = {}
    try {
      const saved = await ask(
        api.PATCH('/api/letters/{id}', { params: { path: { id: letter.id } }, body: { ...sent, version: version.current } }),
      )
      version.current = saved.version
      client.setQueryData(['letter', letter.id], saved)
      client.invalidateQueries({ queryKey: ['letters'] })
      client.invalidateQueries({ queryKey: ['preview', letter.id] })
      setSaving(Object.keys(waiting.current).length > 0 ? { state: 'typing' } : { state: 'saved', at: saved.updated_at })
    } catch (error) {
      waiting.current = { ...sent, ...waiting.current }
      const problem = error instanceof ApiProblem ? error : new ApiProblem(0, 'unknown', String(error))
      setSaving({ state: 'problem', problem })
      if (problem.status === 0 || problem.status >= 500) timer.current = window.setTimeout(save, RETRY_MS)
    } finally {
      busy.current = false
    }
  }, [client, letter.id])

  const change = useCallback(
    (draft: Draft) => {
      waiting.current = { ...waiting.current, ...draft }
      setSaving((now) => (now.state === 'problem' ? now : { state: 'typing' }))
      window.clearTimeout(timer.current)
      timer.current = window.setTimeout(save, PAUSE_MS)
    },
    [save],
  )

  useEffect(() => {
    const leaving = (event: BeforeUnloadEvent) => {
      if (Object.keys(waiting.current).length > 0) event.preventDefault()
    }
    window.addEventListener('beforeunload', leaving)
    return () => {
      window.removeEventListener('beforeunload', leaving)
      window.clearTimeout(timer.current)
      save()
    }
  }, [save])

  /** Keeps what is on this page, over what the colleague wrote. */
  const keepMine = useCallback(async () => {
    const newest = await ask(api.GET('/api/letters/{id}', { params: { path: { id: letter.id } } }))
    version.current = newest.version
    await save()
  }, [letter.id, save])

  return { saving, change, keepMine }
}
