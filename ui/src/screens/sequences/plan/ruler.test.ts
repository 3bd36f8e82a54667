import { describe, expect, it } from 'vitest'
import type { Shape } from '../../../api/client'
import { GAP_PX, type Item, layOut, stretch } from './ruler'

type Step = Shape<'Step'>
const step = (id: number, date: string, more: object = {}) => ({ id, kind: 'letter', date, ...more }) as unknown as Step
const lane = (id: number, steps: Step[], comes_back = true) => ({ id, steps, comes_back })
const fork = (id: number, date: string, ...lanes: object[]) => step(id, date, { kind: 'fork', lanes })
const steps = (items: Item[]) => items.flatMap((item) => (item.kind === 'step' ? [item] : []))
const at = (items: Item[], id: number) => steps(items).find((item) => item.step.id === id)

describe('a plan on the ruler', () => {
  it('draws a few days one by one, days off as one, and folds a longer time', () => {
    const week = layOut([step(1, '2026-05-14'), step(2, '2026-05-19')], ['2026-05-16', '2026-05-17'])
    expect(week.rows.map((row) => (row.kind === 'day' ? row.day : row.words))).toEqual([0, 1, 'weekend', 4, 5])
    const month = layOut([step(1, '2026-05-14'), step(2, '2026-06-04')], [])
    expect(month.rows.map((row) => (row.kind === 'day' ? row.day : row.words))).toEqual([0, '3 weeks', 21])
    expect(layOut([], []).rows).toEqual([])
  })

  it('says holidays as days off', () => {
    const { rows } = layOut([step(1, '2026-05-22'), step(2, '2026-05-26')], ['2026-05-23', '2026-05-24', '2026-05-25'])
    expect(rows.map((row) => row.kind === 'off' && row.words)).toEqual([false, 'days off', false])
  })

  it('puts lanes side by side, each step at its day, and what follows over all of them', () => {
    const plan = [
      step(1, '2026-05-14'),
      fork(2, '2026-05-14', lane(7, [step(3, '2026-05-15')]), lane(8, [step(4, '2026-05-21'), step(5, '2026-05-21')])),
      step(6, '2026-05-28'),
    ]
    const { items, columns, lines } = layOut(plan, [])
    expect(columns).toBe(2)
    expect(steps(items).map((item) => [item.step.id, item.col, item.span])).toEqual([
      ...[
        [1, 0, 2],
        [2, 0, 2],
        [3, 0, 1],
        [4, 1, 1],
        [5, 1, 1],
      ],
      [6, 0, 2],
    ])
    const tops = [1, 2, 3, 4, 5, 6].map((id) => at(items, id)?.top ?? 0)
    expect(tops).toEqual(tops.toSorted((one, other) => one - other))
    const join = items.find((item) => item.kind === 'join')
    expect(lines.filter((line) => line.to === join).map((line) => line.from)).toEqual([at(items, 3), at(items, 5)])
    expect(lines.filter((line) => line.to === at(items, 6)).map((line) => line.from)).toEqual([join])
  })

  it('has nothing stand on anything else in its column', () => {
    const inner = fork(5, '2026-05-14', lane(1, [step(6, '2026-05-14')]), lane(2, [], false))
    const plan = [
      fork(2, '2026-05-14', lane(3, [step(3, '2026-05-14'), step(4, '2026-05-14')]), lane(4, [inner])),
      step(9, '2026-05-14'),
    ]
    const { items, height } = layOut(plan, [], new Set([3]))
    for (const one of items)
      for (const other of items) {
        const apart = one.col + one.span <= other.col || other.col + other.span <= one.col
        const below = one.top + one.height + GAP_PX <= other.top || other.top + other.height + GAP_PX <= one.top
        expect(one === other || apart || below).toBe(true)
      }
    expect(Math.max(...items.map((item) => item.top + item.height))).toBeLessThanOrEqual(height)
  })

  it('marks where a lane ends, and leads nobody on from there', () => {
    const { items, lines } = layOut(
      [fork(1, '2026-05-14', lane(2, [step(3, '2026-05-15')], false), lane(4, [])), step(5, '2026-05-18')],
      [],
    )
    const end = items.find((item) => item.kind === 'end')
    expect(lines.some((line) => line.to === end && line.from === at(items, 3))).toBe(true)
    const join = items.find((item) => item.kind === 'join')
    expect(lines.filter((line) => line.to === join).map((line) => line.from.kind)).toEqual(['lane'])
  })

  it('fits fourteen letters over six months on two screens, and three over ten days on one', () => {
    const letters = (count: number, every: number) =>
      Array.from({ length: count }, (_, i) => step(i + 1, new Date(Date.UTC(2026, 4, 14 + i * every)).toISOString().slice(0, 10)))
    expect(layOut(letters(14, 13), []).height).toBeLessThan(2 * 700)
    expect(layOut(letters(3, 5), []).height).toBeLessThan(560)
  })

  it('says a stretch of days as people do', () => {
    expect([6, 11, 12, 20, 61, 180].map(stretch)).toEqual(['6 days', '11 days', '2 weeks', '3 weeks', '2 months', '6 months'])
  })
})
