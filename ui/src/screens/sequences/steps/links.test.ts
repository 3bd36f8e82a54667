import { expect, it } from 'vitest'
import { linksIn } from './links'

it('finds the addresses of words and buttons, each once', () => {
  const link = (href: string) => ({ type: 'text', marks: [{ type: 'bold' }, { type: 'link', attrs: { href } }] })
  const document = {
    content: [
      { type: 'paragraph', content: [link('https://a.example'), { type: 'text' }, link('https://b.example/{{city}}')] },
      { type: 'columns', content: [{ content: [{ type: 'button', attrs: { href: 'https://a.example', words: 'Look' } }] }] },
      { type: 'button', attrs: { href: null } },
    ],
  }
  expect(linksIn(document)).toEqual(['https://a.example', 'https://b.example/{{city}}'])
  expect(linksIn({})).toEqual([])
})
