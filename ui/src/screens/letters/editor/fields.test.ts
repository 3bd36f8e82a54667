import { describe, expect, it } from 'vitest'
import { type FieldInfo, matching, nearest, offered, typedField, unknownNames } from './fields'

const field = (key: string, label: string): FieldInfo => ({
  key,
  label,
  type: 'text',
  phrases: {},
  uses: ['merge'],
  choices: [],
  forms: [],
  subject: 'person',
  sorted: true,
  retired: false,
})
const FIELDS = [field('deal.value', 'Deal value'), field('person.first_name', 'First name'), field('company.name', 'Company')]

describe('typedField', () => {
  it('finds a field by its words, with what stands in for it', () => {
    expect(typedField('Dear {{first name|friend}},', FIELDS)).toMatchObject({
      index: 5,
      length: 21,
      fallback: 'friend',
      field: { key: 'person.first_name' },
    })
    expect(typedField('{{ Company }}', FIELDS)?.field?.key).toBe('company.name')
  })

  it('names a field that does not exist', () => {
    const found = typedField('Dear {{frist name}}', FIELDS)
    expect(found?.name).toBe('frist name')
    expect(found?.field).toBeUndefined()
  })

  it('finds nothing in plain words', () => {
    expect(typedField('Dear Ana', FIELDS)).toBeNull()
  })
})

describe('unknownNames', () => {
  it('finds each name that no field has, and where', () => {
    expect(unknownNames('Dear {{frist name}}, {{company}} {{x}}', FIELDS)).toEqual([
      { from: 5, to: 19, name: 'frist name' },
      { from: 33, to: 38, name: 'x' },
    ])
  })
})

describe('matching', () => {
  it('puts names that begin with the words first', () => {
    expect(matching('com', FIELDS).map((one) => one.label)).toEqual(['Company'])
    expect(matching('', FIELDS)).toHaveLength(3)
    expect(matching('NAME', FIELDS).map((one) => one.key)).toEqual(['person.first_name', 'company.name'])
  })
})

describe('offered', () => {
  it('keeps the fields of a deal for letters about one', () => {
    const deal = FIELDS.map((one) => ({ ...one, subject: one.key.split('.')[0] ?? '' }))
    expect(offered(deal, 'anybody').map((one) => one.key)).not.toContain('deal.value')
    expect(offered(deal, 'deal').map((one) => one.key)).toContain('deal.value')
  })
})

describe('nearest', () => {
  it('is the field that was probably meant', () => {
    expect(nearest('frist name', FIELDS)?.key).toBe('person.first_name')
    expect(nearest('compny', FIELDS)?.key).toBe('company.name')
    expect(nearest('shoe size', FIELDS)).toBeUndefined()
  })
})
