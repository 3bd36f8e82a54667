import { act, waitFor } from '@testing-library/react'
import { describe, expect, it, vi } from 'vitest'
import { page } from '../../../testing/page'
import { standIn } from '../../../testing/server'
import { FIRST_VIEW, PAGE, useRows, useView } from './usePeople'

type Search = { offset: number; limit: number; words?: string }
const SEARCH = 'POST /api/people/search'
const total = 20_000
const answer = ({ body }: { body: unknown }) => {
  const { offset, limit } = body as Search
  return { body: { total, people: Array.from({ length: limit }, (_, i) => ({ id: offset + i + 1 })) } }
}

describe('useRows', () => {
  const rows = (first: number, last: number) => page().use(() => useRows(FIRST_VIEW, first, last))

  it('asks only for the pages that are looked at, however many people there are', async () => {
    const server = standIn({ [SEARCH]: answer })
    const { result } = rows(15_000, 15_030)
    await waitFor(() => expect(result.current.loading).toBe(false))
    expect(server.of('POST').map((body) => (body as Search).offset)).toEqual([15_000])
    expect([result.current.total, result.current.rows.get(15_004)?.id]).toEqual([total, 15_005])
  })

  it('asks for both pages where one looks at the seam', async () => {
    const server = standIn({ [SEARCH]: answer })
    const { result } = rows(PAGE - 5, PAGE + 20)
    await waitFor(() => expect(result.current.rows.size).toBe(2 * PAGE))
    expect(server.of('POST').map((body) => (body as Search).offset)).toEqual([0, PAGE])
    expect(result.current.rows.get(PAGE)?.id).toBe(PAGE + 1)
  })

  it('says what went wrong', async () => {
    standIn({ [SEARCH]: () => 'away' })
    const { result } = rows(0, 30)
    await waitFor(() => expect(result.current.error).toMatchObject({ status: 0 }))
  })
})

describe('useView', () => {
  const KEPT = 'GET /api/preferences'
  const KEEP = 'PUT /api/preferences/people_view'

  it('begins with the usual columns, or with those that were chosen', async () => {
    standIn({ [KEPT]: () => ({ body: { preferences: { people_view: { columns: ['person.city'], sort: null } } } }) })
    const { result } = page().use(useView)
    expect(result.current[0]).toEqual(FIRST_VIEW)
    await waitFor(() => expect(result.current[0].columns).toEqual(['person.city']))
  })

  it('shows a choice at once and keeps the last of several', async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true })
    const server = standIn({ [KEPT]: () => ({ body: { preferences: {} } }), [KEEP]: () => ({}) })
    const { result } = page().use(useView)
    for (const columns of [['person.city'], ['person.city', 'person.owner']])
      act(() => result.current[1]({ ...FIRST_VIEW, columns }))
    expect(result.current[0].columns).toEqual(['person.city', 'person.owner'])
    await act(() => vi.advanceTimersByTimeAsync(400))
    await waitFor(() => expect(server.of('PUT')).toEqual([{ value: { columns: ['person.city', 'person.owner'], sort: null } }]))
    vi.useRealTimers()
  })
})
