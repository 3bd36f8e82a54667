import { act } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Shape } from '../../../api/client'
import { page } from '../../../testing/page'
import { held, standIn } from '../../../testing/server'
import { LETTERS } from './kept'
import { useAutosave } from './useAutosave'
import { useRestoring } from './useRestoring'

const LETTER = { id: 3, version: 5, name: 'A word', updated_at: '2026-05-12T15:40:00Z' } as Shape<'Letter'>
const PATCH = 'PATCH /api/letters/3'
const RESTORE = 'POST /api/letters/3/versions/1/restore'
const saved = (version: number) => ({ body: { ...LETTER, version } })

beforeEach(() => {
  vi.useFakeTimers()
})
afterEach(() => vi.useRealTimers())

const pass = (milliseconds: number) => act(() => vi.advanceTimersByTimeAsync(milliseconds))

function writing() {
  const onRestored = vi.fn()
  const { result } = page().use(() => {
    const autosave = useAutosave(LETTERS, LETTER, null)
    return { autosave, restoring: useRestoring(LETTERS, 3, autosave, onRestored) }
  })
  return {
    type: (name: string) => act(() => result.current.autosave.change({ name })),
    back: () => act(() => result.current.restoring.restore.mutate(1)),
    error: () => result.current.restoring.restore.error,
    onRestored,
  }
}

describe('useRestoring', () => {
  it('waits for what is being saved, saves what was typed meanwhile, and goes back from there', async () => {
    const first = held()
    const server = standIn({
      [PATCH]: ({ body }) => ((body as { version: number }).version === 5 ? first.answer : saved(7)),
      [RESTORE]: () => saved(8),
    })
    const { type, back, onRestored } = writing()
    type('One')
    await pass(600)
    type('One two')
    back()
    await pass(0)
    expect(server.of('POST')).toEqual([])
    first.give(saved(6))
    await pass(0)
    expect(server.of('PATCH').at(-1)).toEqual({ name: 'One two', version: 6 })
    expect(server.of('POST')).toEqual([{ version: 7 }])
    expect(onRestored).toHaveBeenCalledOnce()
  })

  it('does not go back without what was typed', async () => {
    const server = standIn({ [PATCH]: () => 'away', [RESTORE]: () => saved(8) })
    const { type, back, error, onRestored } = writing()
    type('Not to be lost')
    back()
    await pass(0)
    expect(error()?.message).toBe('What you typed is not saved yet.')
    expect(server.of('POST')).toEqual([])
    expect(onRestored).not.toHaveBeenCalled()
  })
})
