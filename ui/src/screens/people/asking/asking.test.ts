import { describe, expect, it } from 'vitest'
import type { Shape } from '../../../api/client'
import { entries, fresh, listWords, typed, whoBefore } from './asking'
import { EVERYBODY, type Part } from './conditions'

const field = (key: string, label: string, type: string, choices: { value: string; words: string }[] = []) => ({
  key,
  label,
  type,
  choices,
  phrases:
    type === 'choice'
      ? { one_of: { words: 'is a', denied: 'is not a' } }
      : { one_of: { words: `whose ${label.toLowerCase()} is`, denied: `whose ${label.toLowerCase()} is not` } },
  uses: ['condition'],
  subject: key.split('.')[0] ?? '',
  sorted: true,
  retired: key.includes('old'),
})
const CATALOGUE = {
  fields: [
    field('person.city', 'City', 'text'),
    field('person.standing', 'Standing', 'choice', [
      { value: 'lead', words: 'lead' },
      { value: 'former_client', words: 'former client' },
    ]),
    field('person.x_old', 'Old', 'text'),
    field('deal.value', 'Deal value', 'money'),
    field('person.birthday', 'Birthday', 'date'),
  ],
  operators: {
    text: { one_of: 'list', contains: 'text' },
    choice: { one_of: 'list' },
    date: { in_last: 'span' },
    money: { equals: 'number' },
  },
  activities: [{ key: 'opened', words: 'opened', negated: 'has not opened' }],
  memberships: [{ key: 'in', words: 'is in', negated: 'is not in' }],
  colleagues: [],
  cities: ['York'],
  tags: [],
  lists: [],
} as unknown as Shape<'Catalogue'>

describe('typed', () => {
  it('completes a whole test', () => {
    expect(typed(CATALOGUE, 'city is york')?.tests).toEqual([
      { kind: 'field', field: 'person.city', is: 'one_of', value: ['York'] },
    ])
    expect(typed(CATALOGUE, 'City is York or Hull')?.tests).toMatchObject([{ value: ['York', 'Hull'] }])
    expect(typed(CATALOGUE, 'standing is former')?.tests).toMatchObject([{ value: ['former_client'] }])
    expect(typed(CATALOGUE, 'city contains or')?.tests).toMatchObject([{ is: 'contains', value: 'or' }])
  })

  it('knows people by what they are called', () => {
    const lead = { field: 'person.standing', value: ['lead'] }
    const york = { field: 'person.city', value: ['York'] }
    expect(typed(CATALOGUE, 'leads in York')?.tests).toMatchObject([lead, york])
    expect(typed(CATALOGUE, 'York')?.tests).toMatchObject([york])
    expect(typed(CATALOGUE, 'everyone in york')?.tests).toMatchObject([york])
    expect(typed(CATALOGUE, 'former clients and city is York or Tyne')?.tests).toMatchObject([
      { value: ['former_client'] },
      { value: ['York', 'Tyne'] },
    ])
    expect(typed(CATALOGUE, 'leads in York')?.words).toBe('Standing is lead and City is York')
  })

  it('takes a whole where its parts say nothing', () => {
    expect(typed(CATALOGUE, 'city is Tyne and Wear')?.tests).toMatchObject([{ value: ['Tyne and Wear'] }])
  })

  it('waits for what it cannot finish', () => {
    for (const words of ['city', 'city is', 'standing is king', 'shoe is 40', 'birthday is soon', 'leads in Atlantis', 'kings'])
      expect(typed(CATALOGUE, words)).toBeNull()
  })
})

describe('entries', () => {
  it('keep deals apart and leave out retired fields', () => {
    expect(entries(CATALOGUE, 'deal').map((one) => one.key)).toEqual(['deal.value'])
    const keys = entries(CATALOGUE, 'person').map((one) => one.key)
    expect(keys).not.toContain('person.x_old')
    expect(keys).toEqual(expect.arrayContaining(['deals:', 'activity:opened', 'membership:in']))
  })
})

it('begins a test with a value its operator can take', () => {
  expect(fresh(CATALOGUE, 'person.birthday')).toMatchObject({ is: 'in_last', value: { amount: 30, unit: 'days' } })
  expect(fresh(CATALOGUE, 'membership:in')).toMatchObject({ kind: 'membership', membership: 'in' })
})

it('says several values as people do', () => {
  expect(listWords([], [])).toBe('choose…')
  expect(listWords(['a', 'b', 'c'], [])).toBe('a, b or c')
})

describe('whom a part is about', () => {
  const is = (key: string, negated = false): Part => ({ kind: 'field', field: `person.${key}`, is: 'one_of', value: [], negated })
  const group = (...parts: Part[]) => ({ ...EVERYBODY, parts })
  const said = (...parts: Part[]) => parts.map((_, i) => whoBefore(CATALOGUE, group(...parts), i))

  it('is said once, and again after a part that says it itself', () => {
    expect(said(is('standing'), is('standing'))).toEqual(['who ', ''])
    expect(said(is('city'), is('standing'), is('city'))).toEqual(['', 'who ', ''])
  })

  it('is said again of an exception', () => {
    expect(said(is('standing'), is('standing', true))).toEqual(['who ', 'who '])
    expect(said(is('standing'), is('city', true))).toEqual(['who ', ''])
  })
})
