import { describe, expect, it } from 'vitest'
import { namedIn } from './useLetterAudience'

describe('namedIn', () => {
  it('finds fields and conditions wherever they stand, each once', () => {
    const chip = (field: string) => ({ type: 'mergeField', attrs: { field } })
    const document = {
      type: 'doc',
      content: [
        { type: 'paragraph', content: [chip('person.city'), chip('person.city')] },
        { type: 'picture', attrs: { alt: [chip('company.name')], href: [] } },
        {
          type: 'conditional',
          attrs: { condition: { field: 'person.city', is: 'empty' } },
          content: [{ type: 'side', content: [{ type: 'paragraph', content: [chip('owner.name')] }] }],
        },
      ],
    }
    expect(namedIn(document)).toEqual({
      fields: ['person.city', 'company.name', 'owner.name'],
      conditions: [{ field: 'person.city', is: 'empty' }],
    })
  })
})
