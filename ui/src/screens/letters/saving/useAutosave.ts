import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { ApiProblem } from '../../../api/client'
import { useUnsaved } from '../../../app/keys'
import { stale } from '../../../app/stale'
import { dropBackup, keepBackup } from './backup'
import type { Kept, Version } from './kept'
import { mergeDraft, type Overlap } from './merging'

export type Saving =
  | { state: 'saved'; at: string }
  | { state: 'typing' }
  | { state: 'problem'; problem: ApiProblem; overlaps?: Overlap[] }

const OVERTAKEN = 'changed_meanwhile'
const PAUSE_MS = 600
const RETRY_MS = 3000

/**
 * Saves a letter or a passage as one types. What cannot be saved yet is kept on this machine and tried again as long as one is here,
 * and when one comes back: two that try would overtake each other. A colleague's change is put together with what stands here; where
 * both wrote at the same place it is told, and nothing is overwritten.
 *
 * @param onMerged shows what a colleague wrote: their record, and what was typed here with theirs in it
 */
export function useAutosave<D extends object, R extends Version>(
  kept: Kept<D, R>,
  record: R,
  begin: D | null,
  onMerged?: (theirs: R, draft: D) => void,
) {
  const { id } = record
  const client = useQueryClient()
  const [saving, setSaving] = useState<Saving>(begin ? { state: 'typing' } : { state: 'saved', at: record.updated_at })
  const version = useRef(record.version)
  const base = useRef(record)
  const merged = useRef(onMerged)
  merged.current = onMerged
  const waiting = useRef<D>(begin ?? ({} as D))
  const timer = useRef<number>(0)
  const busy = useRef<Promise<void> | null>(null)
  const left = useRef(false)

  const save = useCallback((): Promise<void> => {
    window.clearTimeout(timer.current)
    if (busy.current) return busy.current
    if (Object.keys(waiting.current).length === 0) return Promise.resolve()
    // Null: what they wrote is not to be had just now, or cannot be shown.
    const takeIn = async (): Promise<Overlap[] | null> => {
      const theirs = merged.current ? await kept.read(id).catch(() => null) : null
      if (!theirs) return null
      const { draft, overlaps } = mergeDraft(base.current, waiting.current, theirs)
      if (overlaps.length > 0) return overlaps
      version.current = theirs.version
      base.current = theirs
      waiting.current = draft
      keepBackup(kept.kind, id, theirs.version, draft)
      if (!left.current) merged.current?.(theirs, draft)
      return []
    }
    const send = async () => {
      const sent = waiting.current
      waiting.current = {} as D
      try {
        const saved = await kept.save(id, sent, version.current)
        version.current = saved.version
        base.current = saved
        client.setQueryData([kept.kind, id], saved)
        stale(client, kept.kind)
        const more = Object.keys(waiting.current).length > 0
        if (more) keepBackup(kept.kind, id, saved.version, waiting.current)
        else dropBackup(kept.kind, id)
        setSaving(more ? { state: 'typing' } : { state: 'saved', at: saved.updated_at })
        if (more) timer.current = window.setTimeout(save, PAUSE_MS)
      } catch (error) {
        waiting.current = { ...sent, ...waiting.current }
        keepBackup(kept.kind, id, version.current, waiting.current)
        const problem = error instanceof ApiProblem ? error : new ApiProblem(0, 'unknown', String(error))
        const overlaps = problem.code === OVERTAKEN ? await takeIn() : null
        if (overlaps?.length === 0) {
          setSaving({ state: 'typing' })
          timer.current = window.setTimeout(save, 0)
          return
        }
        setSaving({ state: 'problem', problem, ...(overlaps ? { overlaps } : {}) })
        const unanswered = problem.status === 0 || problem.status >= 500
        const unread = problem.code === OVERTAKEN && merged.current && !overlaps
        if ((unanswered || unread) && !left.current) timer.current = window.setTimeout(save, RETRY_MS)
      } finally {
        busy.current = null
      }
    }
    busy.current = send()
    return busy.current
  }, [client, kept, id])

  const change = useCallback(
    (draft: D) => {
      waiting.current = { ...waiting.current, ...draft }
      keepBackup(kept.kind, id, version.current, waiting.current)
      // The same as before where it is, so that the page is not drawn again with each letter typed.
      setSaving((now) =>
        now.state === 'typing' || (now.state === 'problem' && now.problem.code === OVERTAKEN) ? now : { state: 'typing' },
      )
      window.clearTimeout(timer.current)
      timer.current = window.setTimeout(save, PAUSE_MS)
    },
    [kept, id, save],
  )

  useEffect(() => {
    left.current = false
    if (Object.keys(waiting.current).length > 0) timer.current = window.setTimeout(save, PAUSE_MS)
    const leaving = (event: BeforeUnloadEvent) => {
      if (Object.keys(waiting.current).length > 0) event.preventDefault()
    }
    window.addEventListener('beforeunload', leaving)
    return () => {
      window.removeEventListener('beforeunload', leaving)
      window.clearTimeout(timer.current)
      left.current = true
      save()
    }
  }, [save])

  /** Keeps what is on this page; what the colleague wrote stays among the versions. */
  const keepMine = useCallback(async () => {
    const newest = await kept.read(id)
    version.current = newest.version
    await save()
  }, [kept, id, save])

  /** Takes what the colleague wrote; what is on this page is kept among the versions. */
  const takeTheirs = useCallback(async () => {
    await kept.setAside(id, waiting.current)
    waiting.current = {} as D
    dropBackup(kept.kind, id)
    client.invalidateQueries({ queryKey: ['versions', kept.kind, id] })
    await client.refetchQueries({ queryKey: [kept.kind, id] })
  }, [client, kept, id])

  const unsaved = () => busy.current !== null || Object.keys(waiting.current).length > 0
  useUnsaved(unsaved)
  return {
    saving,
    change,
    /** Saves what waits, now, and what was typed while that was on its way; answers whether all of it is saved. */
    flush: async () => {
      await busy.current
      await save()
      return !unsaved()
    },
    keepMine,
    takeTheirs,
    /** Whether something on this page is not saved yet. */
    unsaved,
    version: () => version.current,
  }
}
