import { describe, expect, it } from 'vitest'
import type { Shape } from '../../../api/client'
import { change, copy, fresh, inOrder, move, moveBy, orderAt, placeOf, put, takeOut } from './edit'

type Input = Shape<'StepInput'>
const letter = (id: number): Input => ({ id, kind: 'letter', letter_id: id, from_minute: 480, to_minute: 600, zone: 'ours' })
const fork = (id: number, ...lanes: Shape<'LaneInput'>[]): Input => ({ id, kind: 'fork', lanes })
const plan: Input[] = [
  letter(1),
  fork(
    2,
    { id: 7, test: { kind: 'opened', step_id: 1 }, steps: [letter(3), letter(4)] },
    {
      id: 8,
      test: null,
      steps: [fork(5, { id: 9, test: { kind: 'clicked', step_id: 1, link: 'https://a.example' }, steps: [] })],
    },
  ),
  letter(6),
]
const ids = (steps: Input[]) => inOrder(steps).map((step) => step.id)

describe('a plan that is edited', () => {
  it('knows where each step stands', () => {
    expect(placeOf(plan, 6)).toEqual({ branch: null, at: 2 })
    expect(placeOf(plan, 4)).toEqual({ branch: { fork: 2, lane: 0 }, at: 1 })
    expect(placeOf(plan, 5)).toEqual({ branch: { fork: 2, lane: 1 }, at: 0 })
    expect(placeOf(plan, 99)).toBeNull()
  })

  it('takes a step in, in the trunk or any lane, and knows its number', () => {
    const inside = { branch: { fork: 5, lane: 0 }, at: 0 }
    expect(ids(put(plan, inside, letter(50)))).toEqual([1, 2, 3, 4, 5, 50, 6])
    expect(orderAt(plan, inside)).toBe(5)
    expect(ids(put(plan, { branch: null, at: 0 }, letter(50)))[0]).toBe(50)
  })

  it('takes a step out with what is in its lanes; who waited for it waits for any', () => {
    expect(ids(takeOut(plan, 2))).toEqual([1, 6])
    const without = takeOut(plan, 1)
    expect(inOrder(without).flatMap((step) => (step.lanes ?? []).map((lane) => lane.test))).toEqual([
      { kind: 'opened' },
      null,
      { kind: 'clicked' },
    ])
  })

  it('changes one step and no other', () => {
    expect(inOrder(change(plan, 4, { letter_id: 9 })).map((step) => step.letter_id)).toEqual([1, undefined, 3, 9, undefined, 6])
  })

  it('moves a step within its row and into others', () => {
    expect(ids(moveBy(plan, 3, 1))).toEqual([1, 2, 4, 3, 5, 6])
    expect(ids(moveBy(plan, 6, -1))).toEqual([1, 6, 2, 3, 4, 5])
    expect(moveBy(plan, 1, -1)).toBe(plan)
    expect(moveBy(plan, 6, 1)).toBe(plan)
    expect(ids(move(plan, 6, { branch: { fork: 2, lane: 1 }, at: 0 }))).toEqual([1, 2, 3, 4, 6, 5])
  })

  it('begins a step in a lane by what comes before it there, and not by another lane', () => {
    const early = (id: number) => ({ ...letter(id), from_minute: 60, to_minute: 120 })
    const parted = [letter(1), fork(2, { id: 7, test: null, steps: [early(3)] }, { id: 8, test: null, steps: [] })]
    const place = { branch: { fork: 2, lane: 1 }, at: 0 }
    expect(fresh('letter', parted, place)).toMatchObject({ from_minute: 480, to_minute: 600 })
    expect(fresh('fork', parted, place).lanes?.[0]?.test).toEqual({ kind: 'opened', step_id: 1 })
    const moved = move([...parted, fork(9, { id: 10, test: { kind: 'opened', step_id: 3 }, steps: [] })], 9, place)
    expect(inOrder(moved).find((step) => step.id === 9)?.lanes?.[0]?.test).toEqual({ kind: 'opened' })
  })

  it('never puts a fork into itself, and has no lane wait for what comes later', () => {
    expect(move(plan, 2, { branch: { fork: 5, lane: 0 }, at: 0 })).toBe(plan)
    const later = moveBy(plan, 1, 1)
    expect(ids(later)).toEqual([2, 3, 4, 5, 1, 6])
    expect(later[0]?.lanes?.[0]?.test).toEqual({ kind: 'opened' })
  })

  it('copies a step with its lanes, about the copies', () => {
    const inner = fork(2, { id: 7, test: null, steps: [letter(3), fork(5, { test: { kind: 'opened', step_id: 3 }, steps: [] })] })
    const copied = copy([letter(1), inner], 2)
    expect(ids(copied)).toEqual([1, 2, 3, 5, -2, -3, -5])
    expect(copied[2]?.lanes?.[0]?.id).toBeUndefined()
    expect(copied[2]?.lanes?.[0]?.steps?.[1]?.lanes?.[0]?.test?.step_id).toBe(-3)
  })

  it('begins a step with the hours of the letter before it, and a fork about it', () => {
    const end = { branch: null, at: 3 }
    expect(fresh('letter', plan, end)).toMatchObject({ amount: 3, from_minute: 480, zone: 'ours' })
    expect(fresh('letter', [], { branch: null, at: 0 })).toMatchObject({ amount: 0, from_minute: 540, zone: 'theirs' })
    expect(fresh('fork', plan, end).lanes?.[0]?.test).toEqual({ kind: 'opened', step_id: 6 })
    expect(fresh('fork', [], { branch: null, at: 0 }).lanes?.[0]?.test).toEqual({ kind: 'opened' })
  })
})
