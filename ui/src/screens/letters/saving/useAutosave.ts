import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { ApiProblem, api, ask, type Shape } from '../../../api/client'
import { dropBackup, keepBackup } from './backup'
import type { Draft } from './draft'

type Letter = Shape<'Letter'>
export type Saving = { state: 'saved'; at: string } | { state: 'typing' } | { state: 'problem'; problem: ApiProblem }

const PAUSE_MS = 600
const RETRY_MS = 3000
const AFFECTED = ['letters', 'preview', 'checks', 'letter-audience', 'letter-versions', 'stack', 'sequence', 'ready']

/**
 * Saves a letter as one types. What cannot be saved yet is kept on this machine and tried again; a colleague's change is
 * told, not overwritten.
 */
export function useAutosave(letter: Letter, begin: Draft | null) {
  const client = useQueryClient()
  const [saving, setSaving] = useState<Saving>(begin ? { state: 'typing' } : { state: 'saved', at: letter.updated_at })
  const version = useRef(letter.version)
  const waiting = useRef<Draft>(begin ?? {})
  const timer = useRef<number>(0)
  const busy = useRef(false)

  const save = useCallback(async () => {
    window.clearTimeout(timer.current)
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
      for (const key of AFFECTED) client.invalidateQueries({ queryKey: [key] })
      const more = Object.keys(waiting.current).length > 0
      if (more) keepBackup(letter.id, saved.version, waiting.current)
      else dropBackup(letter.id)
      setSaving(more ? { state: 'typing' } : { state: 'saved', at: saved.updated_at })
      if (more) timer.current = window.setTimeout(save, PAUSE_MS)
    } catch (error) {
      waiting.current = { ...sent, ...waiting.current }
      keepBackup(letter.id, version.current, waiting.current)
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
      keepBackup(letter.id, version.current, waiting.current)
      setSaving((now) => (now.state === 'problem' && now.problem.code === 'changed_meanwhile' ? now : { state: 'typing' }))
      window.clearTimeout(timer.current)
      timer.current = window.setTimeout(save, PAUSE_MS)
    },
    [letter.id, save],
  )

  useEffect(() => {
    if (Object.keys(waiting.current).length > 0) timer.current = window.setTimeout(save, PAUSE_MS)
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

  /** Keeps what is on this page; what the colleague wrote stays among the versions. */
  const keepMine = useCallback(async () => {
    const newest = await ask(api.GET('/api/letters/{id}', { params: { path: { id: letter.id } } }))
    version.current = newest.version
    await save()
  }, [letter.id, save])

  /** Takes what the colleague wrote; what is on this page is kept among the versions. */
  const takeTheirs = useCallback(async () => {
    const { set_aside: _, archived: __, ...content } = waiting.current
    await ask(api.POST('/api/letters/{id}/versions', { params: { path: { id: letter.id } }, body: content }))
    waiting.current = {}
    dropBackup(letter.id)
    await client.refetchQueries({ queryKey: ['letter', letter.id] })
  }, [client, letter.id])

  return {
    saving,
    change,
    keepMine,
    takeTheirs,
    /** Whether something on this page is not saved yet. */
    unsaved: () => busy.current || Object.keys(waiting.current).length > 0,
    version: () => version.current,
  }
}
