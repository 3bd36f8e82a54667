import { act, waitFor } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import { page } from '../testing/page'
import { useInTurn } from './useInTurn'

type Saved = { version: number; name: string }

/** A server that takes a change only on the version it has. */
function keeper(version = 5) {
  const held = { version, name: '' }
  const sent: [string, number][] = []
  const send = async (name: string, on: number): Promise<Saved> => {
    sent.push([name, on])
    if (on !== held.version) throw new Error('changed meanwhile')
    Object.assign(held, { version: on + 1, name })
    return { ...held }
  }
  return { held, sent, send }
}

describe('changes of one record from one page', () => {
  it('go one after the other, each on what the one before left', async () => {
    const { sent, send } = keeper()
    const { result } = page().use(() => useInTurn(['company', 3], { version: 5 }, send))
    act(() => {
      for (const name of ['a', 'b', 'c']) result.current.mutate(name)
    })
    await waitFor(() => expect(sent.length).toBe(3))
    expect(sent).toEqual([
      ['a', 5],
      ['b', 6],
      ['c', 7],
    ])
  })

  it('take turns with others of the same record', async () => {
    const { sent, send } = keeper()
    const { result } = page().use(() => [
      useInTurn(['company', 3], { version: 5 }, send),
      useInTurn(['company', 3], { version: 5 }, send),
    ])
    act(() => {
      result.current[0]?.mutate('a')
      result.current[1]?.mutate('b')
    })
    await waitFor(() =>
      expect(sent).toEqual([
        ['a', 5],
        ['b', 6],
      ]),
    )
  })

  it('tell of a colleague who was quicker, and go on from what the page is shown then', async () => {
    const { held, sent, send } = keeper()
    held.version = 9
    let shown = { version: 5 }
    const { result, rerender } = page().use(() => useInTurn(['company', 3], shown, send))
    act(() => result.current.mutate('mine'))
    await waitFor(() => expect(result.current.error).toMatchObject({ message: 'changed meanwhile' }))
    shown = { version: 9 }
    rerender()
    act(() => result.current.mutate('mine'))
    await waitFor(() => expect(result.current.isSuccess).toBe(true))
    expect(sent).toEqual([
      ['mine', 5],
      ['mine', 9],
    ])
    expect(result.current.error).toBeNull()
  })
})
