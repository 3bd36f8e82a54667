import { act, waitFor } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import { page } from '../../testing/page'
import { standIn } from '../../testing/server'
import { nextGap, PAGE, useStack } from './useStack'

const rows = (from: number, count: number) => Array.from({ length: count }, (_, i) => ({ person_id: from + i }))

describe('useStack', () => {
  it('reads the page one stands on and those in sight, and no others', async () => {
    const { asked } = standIn({
      'GET /api/steps/5/stack': ({ query }) => ({ body: { shown: 1000, rows: rows(Number(query.from), PAGE) } }),
    })
    const { result } = page().use(() => useStack(5, 'gaps', 450))
    await waitFor(() => expect(result.current.rowAt(450)?.person_id).toBe(450))
    expect(result.current.rowAt(250)).toBeUndefined()
    act(() => result.current.onSight({ first: 880, last: 890 }))
    await waitFor(() => expect(result.current.rowAt(890)?.person_id).toBe(890))
    expect(asked.map((one) => one.query)).toEqual(['0', '400', '800'].map((from) => ({ only: 'gaps', from })))
  })

  it('asks the server where the next gap is', async () => {
    standIn({ 'GET /api/steps/5/stack/next-gap': ({ query }) => ({ body: { at: Number(query.after) + 2 } }) })
    expect(await nextGap(5, 7)).toBe(9)
  })
})
