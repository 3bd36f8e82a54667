import { describe, expect, it } from 'vitest'
import { fromCondition, toCondition } from './conditions'

const LEADS = { field: 'person.standing', is: 'one_of', value: ['lead'] }
const SILENT = { not: { activity: 'replied', within_days: 90 } }

describe('fromCondition and toCondition', () => {
  it('give back the tree they were given', () => {
    const tree = {
      all: [
        LEADS,
        SILENT,
        { not: { field: 'person.tags', is: 'one_of', value: ['press'] } },
        { any: [LEADS, { field: 'person.city', is: 'empty' }] },
      ],
    }
    expect(toCondition(fromCondition(tree) ?? [])).toEqual(tree)
  })

  it('leave out a test that is not finished', () => {
    expect(toCondition([{ butNot: false, tests: [{ kind: 'field', field: 'person.city', is: 'one_of', value: [] }] }])).toEqual({
      all: [],
    })
  })

  it('say when a tree goes deeper than the sentence', () => {
    expect(fromCondition({ all: [{ any: [{ all: [LEADS] }] }] })).toBeNull()
  })
})
