import { describe, expect, it } from 'vitest'
import { linkAddress } from './linkAddress'

describe('where a link leads', () => {
  it.each([
    ['', ''],
    [' https://house.example/a ', 'https://house.example/a'],
    ['house.example/a', 'https://house.example/a'],
    ['ana@house.example', 'mailto:ana@house.example'],
    ['tel:01632960124', 'tel:01632960124'],
    ['https://house.example/?who={{first name}}&at={{e-mail}}', 'https://house.example/?who={{first name}}&at={{e-mail}}'],
    ['house.example/{{last name}}', 'https://house.example/{{last name}}'],
    ['{{company website}}', '{{company website}}'],
    ['{{company website}}/menu', '{{company website}}/menu'],
  ])('reads “%s”', (typed, address) => expect(linkAddress(typed)).toBe(address))

  it.each(['javascript:alert(1)', 'data:text/html,x', 'two words', 'https://a b', 'file:///etc', '{{company website}} menu'])(
    'refuses “%s”',
    (typed) => expect(linkAddress(typed)).toBeNull(),
  )
})
