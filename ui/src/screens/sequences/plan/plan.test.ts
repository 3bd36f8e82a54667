import { describe, expect, it } from 'vitest'
import type { Shape } from '../../../api/client'
import { shown, stepInput } from './plan'

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
