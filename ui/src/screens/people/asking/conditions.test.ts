import { describe, expect, it } from 'vitest'
import { complete, EVERYBODY, fromCondition, saidBy, toCondition } from './conditions'

const LEADS = { field: 'person.standing', is: 'one_of', value: ['lead'] }

describe('fromCondition and toCondition', () => {
  it('give back the tree they were given, however deep', () => {
    const tree = {
      all: [
        LEADS,
        {
          not: {
            activity: 'clicked',
            within: { amount: 3, unit: 'months' as const },
            letter_id: 4,
            link: 'https://a.example',
            at_least: 2,
          },
        },
        {
          not: {
            any: [
              LEADS,
              {
                all: [{ not: LEADS }, { membership: 'in', sequence_id: 2, status: ['replied'], step: 1, step_id: 7, lane_id: 3 }],
              },
            ],
          },
        },
        { deals: { any: [{ field: 'deal.value', is: 'more_than', value: 5 }] }, at_least: 2 },
        { field: 'person.city', is: 'empty' },
      ],
    }
    expect(toCondition(fromCondition(tree))).toEqual(tree)
  })

  it('keep a doubled not', () => {
    const tree = { not: { not: LEADS } }
    expect(toCondition(fromCondition(tree))).toEqual({ all: [{ not: { all: [{ not: LEADS }] } }] })
  })

  it('leave out what is not finished', () => {
    const unfinished = { kind: 'field' as const, field: 'person.city', is: 'one_of', value: [], negated: false }
    expect(toCondition({ ...EVERYBODY, parts: [unfinished, { ...EVERYBODY, parts: [unfinished] }] })).toEqual({ all: [] })
    expect(complete({ kind: 'field', field: 'person.x', is: 'between', value: [1, ''] })).toBe(false)
  })

  it('are kept only when all of them is said', () => {
    const city = { kind: 'field' as const, field: 'person.city', is: 'one_of', negated: false }
    const [whole, unfinished] = [
      { ...city, value: ['York'] },
      { ...city, value: [] },
    ]
    const deals = (parts: (typeof whole)[]) => ({
      kind: 'deals' as const,
      atLeast: 1,
      where: { ...EVERYBODY, parts },
      negated: false,
    })
    for (const parts of [[], [unfinished], [whole, unfinished], [{ ...EVERYBODY, parts: [] }], [deals([unfinished])]])
      expect(saidBy({ ...EVERYBODY, parts })).toBeNull()
    expect(saidBy({ ...EVERYBODY, parts: [whole] })).toEqual({ all: [{ field: 'person.city', is: 'one_of', value: ['York'] }] })
    expect(saidBy({ ...EVERYBODY, parts: [deals([])] })).not.toBeNull()
  })

  it('mean everybody by nothing', () => {
    expect(fromCondition(undefined)).toEqual(EVERYBODY)
    expect(fromCondition({})).toEqual(EVERYBODY)
  })
})
