import { describe, expect, it } from 'vitest'
import { ApiProblem } from '../api/client'
import { inTheWay } from './away'

describe('inTheWay', () => {
  it('leaves a page that has something to show while the server is away, and nothing else', () => {
    const away = new ApiProblem(0, 'no_answer', 'The server does not answer.')
    const gone = new ApiProblem(404, 'not_found', 'There is no such letter.')
    expect(inTheWay(away, { subject: 'typed' })).toBeNull()
    expect(inTheWay(away, undefined)).toBe(away)
    expect(inTheWay(gone, { subject: 'typed' })).toBe(gone)
    expect(inTheWay(null, undefined)).toBeNull()
  })
})
