import { expect, it } from 'vitest'
import { placeQuery } from './useMembers'

it('asks for a place in a sequence as the server knows it', () => {
  expect(placeQuery('step-5')).toEqual({ step_id: 5, state: 'active' })
  expect(placeQuery('lane-7')).toEqual({ lane_id: 7 })
  expect(placeQuery('nod')).toEqual({ waits_for: 'nod', state: 'active' })
  expect(placeQuery('paused')).toEqual({ state: 'paused' })
  expect(placeQuery('')).toEqual({})
})
