import { describe, expect, it } from 'vitest'
import type { Shape } from '../../../api/client'
import { comesBefore, leading, shown, stepInput } from './plan'

type Step = Shape<'Step'>
const lane = (id: number, words: string) => ({ id, words, test: null, comes_back: true, steps: [], headline: words, took: 0 })
const fork = { id: 1, kind: 'fork', within: { amount: 5, unit: 'days' }, lanes: [lane(1, 'a'), lane(2, 'b')] } as unknown as Step

describe('a plan on its way', () => {
  it('shows how long a fork waits, and its lanes, as they will be', () => {
    const sent = stepInput(fork)
    const next = shown(
      [fork],
      [{ ...sent, within: { amount: 1, unit: 'weeks' }, lanes: sent.lanes?.map((one) => ({ ...one, words: 'c' })) }],
    )
    expect(next?.[0]?.within).toEqual({ amount: 1, unit: 'weeks' })
    expect(next?.[0]?.lanes?.map((one) => one.words)).toEqual(['c', 'c'])
  })

  it('waits for the number of a lane that is new', () => {
    const sent = stepInput(fork)
    expect(shown([fork], [{ ...sent, lanes: [...(sent.lanes ?? []), { test: null, comes_back: true, steps: [] }] }])).toBeNull()
  })
})

describe('what stands before a step', () => {
  const letter = (id: number) => ({ id, kind: 'letter', position: id }) as unknown as Step
  const [first, second] = [lane(1, 'a'), lane(2, 'b')]
  const parting = {
    ...fork,
    id: 2,
    lanes: [
      { ...first, steps: [letter(3)] },
      { ...second, steps: [letter(4), letter(5)] },
    ],
  } as Step
  const plan = [letter(1), parting, letter(6)]

  it('is the step before it in its own lane, or the fork, and never a step of another lane', () => {
    expect([1, 2, 3, 4, 5, 6].map((id) => leading(plan, id)).map((one) => one && [one.step.id, one.inside])).toEqual([
      null,
      [1, false],
      [2, true],
      [2, true],
      [4, false],
      [2, false],
    ])
    expect(comesBefore(plan, 4)?.map((step) => step.id)).toEqual([1, 2])
    expect(comesBefore(plan, 6)?.map((step) => step.id)).toEqual([1, 2, 3, 4, 5])
  })
})
