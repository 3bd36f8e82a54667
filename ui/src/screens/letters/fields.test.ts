import { describe, expect, it } from 'vitest'
import { type FieldInfo, typedField } from './fields'

const field = (key: string, label: string): FieldInfo => ({
  key,
  label,
  type: 'text',
  phrase: '',
  uses: ['merge'],
  choices: [],
  subject: 'person',
  sorted: true,
  retired: false,
})
const FIELDS = [field('person.first_name', 'First name'), field('company.name', 'Company')]

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
