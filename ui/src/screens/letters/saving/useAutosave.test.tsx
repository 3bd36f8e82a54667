import { act } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Shape } from '../../../api/client'
import { page } from '../../../testing/page'
import { held, OVERTAKEN, standIn } from '../../../testing/server'
import { keepBackup, readBackup } from './backup'
import type { Draft } from './draft'
import { LETTERS } from './kept'
import { useAutosave } from './useAutosave'

const LETTER = { id: 3, version: 5, name: 'A word', updated_at: '2026-05-12T15:40:00Z' } as Shape<'Letter'>
const PATCH = 'PATCH /api/letters/3'
const saved = (version: number) => ({ body: { ...LETTER, version, updated_at: '2026-05-12T15:41:00Z' } })

beforeEach(() => {
  vi.useFakeTimers()
})
afterEach(() => vi.useRealTimers())

const pass = (milliseconds: number) => act(() => vi.advanceTimersByTimeAsync(milliseconds))

function writing(begin: Draft | null = null) {
  const { result, unmount } = page().use(() => useAutosave(LETTERS, LETTER, begin))
  return { hook: () => result.current, type: (name: string) => act(() => result.current.change({ name })), unmount }
}

describe('useAutosave', () => {
  it('saves once after a pause in typing, on the version it began with', async () => {
    const server = standIn({ [PATCH]: () => saved(6) })
    const { type, hook } = writing()
    type('A wor')
    await pass(300)
    type('A word of')
    expect(hook().saving.state).toBe('typing')
    await pass(599)
    expect(server.asked).toEqual([])
    await pass(1)
    expect(server.of('PATCH')).toEqual([{ name: 'A word of', version: 5 }])
    expect(hook().saving).toEqual({ state: 'saved', at: '2026-05-12T15:41:00Z' })
  })

  it('keeps a second copy here until the server has it', async () => {
    standIn({ [PATCH]: () => saved(6) })
    const { type, hook } = writing()
    type('Unsent')
    expect(readBackup<Draft>('letter', 3)).toEqual({ version: 5, draft: { name: 'Unsent' } })
    expect(hook().unsaved()).toBe(true)
    await pass(600)
    expect(readBackup<Draft>('letter', 3)).toBeNull()
    expect(hook().unsaved()).toBe(false)
  })

  it('sends what was typed while it was saving, on the version that came back', async () => {
    const first = held()
    const server = standIn({
      [PATCH]: ({ body }) => ((body as { version: number }).version === 5 ? first.answer : saved(7)),
    })
    const { type, hook } = writing()
    type('One')
    await pass(600)
    type('One two')
    first.give(saved(6))
    await pass(0)
    expect(hook().saving.state).toBe('typing')
    expect(readBackup<Draft>('letter', 3)).toEqual({ version: 6, draft: { name: 'One two' } })
    await pass(600)
    expect(server.of('PATCH')).toEqual([
      { name: 'One', version: 5 },
      { name: 'One two', version: 6 },
    ])
    expect(hook().version()).toBe(7)
  })

  it('tries again by itself while nothing answers, and loses nothing meanwhile', async () => {
    let away = true
    const server = standIn({ [PATCH]: () => (away ? 'away' : saved(6)) })
    const { type, hook } = writing()
    type('Kept')
    await pass(600)
    expect(hook().saving).toMatchObject({ state: 'problem', problem: { status: 0 } })
    expect(readBackup<Draft>('letter', 3)?.draft).toEqual({ name: 'Kept' })
    await pass(3000)
    away = false
    await pass(3000)
    expect(hook().saving.state).toBe('saved')
    expect(server.asked.length).toBe(3)
  })

  it('asks no more when what was typed is refused, until it is changed', async () => {
    const refused = { status: 422, body: { error: { code: 'link_unclear', message: 'A link leads nowhere.' } } }
    let wrong = true
    const server = standIn({ [PATCH]: () => (wrong ? refused : saved(6)) })
    const { type, hook } = writing()
    type('javascript:')
    await pass(20_000)
    expect(server.asked.length).toBe(1)
    expect(hook().saving).toMatchObject({ state: 'problem', problem: { code: 'link_unclear' } })
    wrong = false
    type('https://a.example')
    await pass(600)
    expect(hook().saving.state).toBe('saved')
  })

  describe('when a colleague was quicker', () => {
    it('overwrites nothing, and goes on saying so while one types', async () => {
      standIn({ [PATCH]: () => OVERTAKEN })
      const { type, hook } = writing()
      type('Mine')
      await pass(600)
      type('Mine too')
      expect(hook().saving).toMatchObject({ state: 'problem', problem: { code: 'changed_meanwhile' } })
      expect(readBackup<Draft>('letter', 3)?.draft).toEqual({ name: 'Mine too' })
    })

    it('puts both together where they wrote at different places, and saves it on theirs', async () => {
      const block = (text: string) => ({ type: 'paragraph', content: [{ type: 'text', text }] })
      const text = (...blocks: string[]) => ({ type: 'doc', content: blocks.map(block) }) as unknown as Shape<'Document'>
      const base = { ...LETTER, body: text('Top', 'Middle', 'Bottom') } as Shape<'Letter'>
      const theirs = { ...base, version: 9, name: 'Theirs', body: text('Her top', 'Middle', 'Bottom') }
      const server = standIn({
        [PATCH]: ({ body }) => ((body as { version: number }).version === 9 ? saved(10) : OVERTAKEN),
        'GET /api/letters/3': () => ({ body: theirs }),
      })
      const onMerged = vi.fn()
      const { result } = page().use(() => useAutosave(LETTERS, base, null, onMerged))
      act(() => result.current.change({ body: text('Top', 'Middle', 'My bottom') }))
      await pass(600)
      const merged = { body: text('Her top', 'Middle', 'My bottom') }
      expect(onMerged).toHaveBeenCalledWith(theirs, merged)
      await pass(1)
      expect(server.of('PATCH').at(-1)).toEqual({ ...merged, version: 9 })
      expect(result.current.saving.state).toBe('saved')
    })

    it('puts both together for one who has left, too, and shows it to nobody', async () => {
      const theirs = { ...LETTER, version: 9 }
      const server = standIn({
        [PATCH]: ({ body }) => ((body as { version: number }).version === 9 ? saved(10) : OVERTAKEN),
        'GET /api/letters/3': () => ({ body: theirs }),
      })
      const onMerged = vi.fn()
      const { result, unmount } = page().use(() => useAutosave(LETTERS, LETTER, null, onMerged))
      act(() => result.current.change({ category: 'Autumn' }))
      unmount()
      await pass(1)
      expect(server.of('PATCH').at(-1)).toEqual({ category: 'Autumn', version: 9 })
      expect(onMerged).not.toHaveBeenCalled()
    })

    it('asks again for what they wrote when it cannot be had at once', async () => {
      const theirs = { ...LETTER, version: 6, updated_at: '2026-05-12T15:40:30Z' }
      let away = true
      const server = standIn({
        [PATCH]: ({ body }) => ((body as { version: number }).version === 6 ? saved(7) : OVERTAKEN),
        'GET /api/letters/3': () => (away ? 'away' : { body: theirs }),
      })
      const { result } = page().use(() => useAutosave(LETTERS, LETTER, null, vi.fn()))
      act(() => result.current.change({ name: 'Ours' }))
      await pass(600)
      expect(result.current.saving).toMatchObject({ state: 'problem', problem: { code: 'changed_meanwhile' } })
      away = false
      await pass(3001)
      expect(server.of('PATCH').at(-1)).toEqual({ name: 'Ours', version: 6 })
      expect(result.current.saving.state).toBe('saved')
    })

    it('loses nothing that was sent without an answer when a colleague wrote at the same place meanwhile', async () => {
      let away = true
      standIn({
        [PATCH]: () => (away ? 'away' : OVERTAKEN),
        'GET /api/letters/3': () => ({ body: { ...LETTER, version: 6, name: 'Theirs' } }),
      })
      const onMerged = vi.fn()
      const { result } = page().use(() => useAutosave(LETTERS, LETTER, null, onMerged))
      act(() => result.current.change({ name: 'Ours' }))
      await pass(600)
      away = false
      await pass(3001)
      expect(result.current.saving).toMatchObject({ state: 'problem', overlaps: [{ mine: 'Ours', theirs: 'Theirs' }] })
      expect([onMerged.mock.calls.length, readBackup<Draft>('letter', 3)?.draft]).toEqual([0, { name: 'Ours' }])
    })

    it('shows both where they wrote at the same place, and overwrites nothing', async () => {
      const theirs = { ...LETTER, version: 9, name: 'Theirs' }
      const server = standIn({ [PATCH]: () => OVERTAKEN, 'GET /api/letters/3': () => ({ body: theirs }) })
      const { result } = page().use(() => useAutosave(LETTERS, LETTER, null, vi.fn()))
      act(() => result.current.change({ name: 'Mine' }))
      await pass(600)
      await pass(5000)
      expect(result.current.saving).toMatchObject({ state: 'problem', overlaps: [{ mine: 'Mine', theirs: 'Theirs' }] })
      expect(server.of('PATCH').length).toBe(1)
    })

    it('keeps mine on top of theirs when told to', async () => {
      const server = standIn({
        [PATCH]: ({ body }) => ((body as { version: number }).version === 9 ? saved(10) : OVERTAKEN),
        'GET /api/letters/3': () => saved(9),
      })
      const { type, hook } = writing()
      type('Mine')
      await pass(600)
      await act(() => hook().keepMine())
      expect(server.of('PATCH').at(-1)).toEqual({ name: 'Mine', version: 9 })
      expect(hook().saving.state).toBe('saved')
    })

    it('keeps mine among the versions when theirs is taken', async () => {
      const server = standIn({ [PATCH]: () => OVERTAKEN, 'POST /api/letters/3/versions': () => ({ status: 201 }) })
      const { type, hook } = writing()
      type('Mine')
      await pass(600)
      await act(() => hook().takeTheirs())
      expect(server.of('POST')).toEqual([{ name: 'Mine' }])
      expect([readBackup<Draft>('letter', 3), hook().unsaved()]).toEqual([null, false])
    })

    it('drops nothing when keeping it did not work', async () => {
      standIn({ [PATCH]: () => OVERTAKEN, 'POST /api/letters/3/versions': () => 'away' })
      const { type, hook } = writing()
      type('Mine')
      await pass(600)
      await act(() => expect(hook().takeTheirs()).rejects.toMatchObject({ status: 0 }))
      expect([readBackup<Draft>('letter', 3)?.draft, hook().unsaved()]).toEqual([{ name: 'Mine' }, true])
    })
  })

  it('begins with what a lost page had, and saves it', async () => {
    const server = standIn({ [PATCH]: () => saved(6) })
    keepBackup('letter', 3, 5, { name: 'Lost' })
    const { hook } = writing({ name: 'Lost' })
    expect(hook().saving.state).toBe('typing')
    await pass(600)
    expect(server.of('PATCH')).toEqual([{ name: 'Lost', version: 5 }])
    expect(readBackup<Draft>('letter', 3)).toBeNull()
  })

  it('saves at once when one leaves the screen', async () => {
    const server = standIn({ [PATCH]: () => saved(6) })
    const { type, unmount } = writing()
    type('Leaving')
    unmount()
    await pass(0)
    expect(server.of('PATCH')).toEqual([{ name: 'Leaving', version: 5 }])
  })

  it('leaves here what could not be saved when one left, and tries no more behind the back of another desk', async () => {
    const server = standIn({ [PATCH]: () => 'away' })
    const { type, unmount } = writing()
    type('Half a sen')
    await pass(600)
    unmount()
    await pass(60_000)
    expect(server.of('PATCH').length).toBe(2)
    expect(readBackup<Draft>('letter', 3)).toEqual({ version: 5, draft: { name: 'Half a sen' } })
  })

  it('asks before the page is shut with something unsaved, and not otherwise', async () => {
    standIn({ [PATCH]: () => saved(6) })
    const { type } = writing()
    const shut = () => window.dispatchEvent(new Event('beforeunload', { cancelable: true }))
    expect(shut()).toBe(true)
    type('Unsent')
    expect(shut()).toBe(false)
    await pass(600)
    expect(shut()).toBe(true)
  })
})
