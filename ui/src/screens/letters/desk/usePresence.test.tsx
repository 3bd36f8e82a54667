import { waitFor } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import { page } from '../../../testing/page'
import { standIn } from '../../../testing/server'
import { usePresence } from './usePresence'

type Said = { tab: string; leaves?: boolean }

describe('usePresence', () => {
  it('is one page, however often the letter is shown, and says when it leaves', async () => {
    const answer = { body: { others: [{ name: 'Petra Lund', own: false }], version: 7 } }
    const server = standIn({ 'POST /api/letters/3/presence': () => answer })
    const said = () => server.of('POST') as Said[]
    const first = page().use(() => usePresence(3))
    await waitFor(() => expect(first.result.current).toEqual({ others: answer.body.others, newest: 7 }))
    first.unmount()
    await waitFor(() => expect(said().map((one) => one.leaves)).toEqual([undefined, true]))
    const second = page().use(() => usePresence(3))
    await waitFor(() => expect(second.result.current.newest).toBe(7))
    window.dispatchEvent(new Event('pagehide'))
    await waitFor(() => expect(said().map((one) => one.leaves)).toEqual([undefined, true, undefined, true]))
    expect(new Set(said().map((one) => one.tab)).size).toBe(1)
    second.unmount()
  })
})
