import { describe, expect, it } from 'vitest'
import { layOut } from './ruler'

describe('layOut', () => {
  it('puts each step at the day it falls on', () => {
    const { rows } = layOut(['2026-05-13', '2026-05-18'], ['2026-05-16', '2026-05-17'])
    expect(rows.map((row) => (row.kind === 'day' ? row.day : row.words))).toEqual([0, 1, 2, 'weekend', 5])
    expect(
      rows.filter((row) => row.kind === 'day' && row.steps.length > 0).map((row) => row.kind === 'day' && row.steps),
    ).toEqual([[0], [1]])
  })

  it('takes days off together and says what they are', () => {
    const { rows } = layOut(['2026-05-22', '2026-05-26'], ['2026-05-23', '2026-05-24', '2026-05-25'])
    expect(rows[1]).toMatchObject({ kind: 'off', from: '2026-05-23', to: '2026-05-25', words: 'days off' })
  })

  it('gives room to two steps on one day, and none to an empty plan', () => {
    const { rows, height } = layOut(['2026-05-13', '2026-05-13'], [])
    expect(rows[0]).toMatchObject({ steps: [0, 1], height })
    expect(layOut([], [])).toEqual({ rows: [], height: 0 })
  })

  it('never lets two rows overlap', () => {
    const { rows } = layOut(['2026-05-13', '2026-05-20', '2026-06-30'], ['2026-05-16', '2026-05-17'])
    rows.slice(1).forEach((row, i) => {
      const before = rows[i]
      expect(row.top).toBe((before?.top ?? 0) + (before?.height ?? 0))
    })
  })
})
