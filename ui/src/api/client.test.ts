import { afterEach, describe, expect, it, vi } from 'vitest'
import { ApiProblem, ask, problemOf } from './client'

const answer = (status: number, data?: unknown, error?: unknown) =>
  Promise.resolve({ data, error, response: new Response(null, { status }) })

afterEach(() => vi.restoreAllMocks())

describe('ask', () => {
  it('hands back the data of a good answer', async () => {
    await expect(ask(answer(200, { id: 7 }))).resolves.toEqual({ id: 7 })
  })

  it('throws what the API said was wrong, where, and what to do', async () => {
    const error = {
      error: {
        code: 'unknown_field',
        message: 'There is no field “frist name”.',
        at: 'body',
        hint: 'Did you mean “first name”?',
        data: { nearest: 'person.first_name' },
      },
    }
    const problem = await ask(answer(422, undefined, error)).catch((caught: unknown) => caught)

    expect(problem).toBeInstanceOf(ApiProblem)
    expect(problem).toMatchObject({
      status: 422,
      code: 'unknown_field',
      at: 'body',
      hint: 'Did you mean “first name”?',
      data: { nearest: 'person.first_name' },
    })
  })

  it('says that nothing is lost when nothing answers', async () => {
    const problem = await ask(Promise.reject(new TypeError('Failed to fetch'))).catch((caught: unknown) => caught)

    expect(problem).toMatchObject({ status: 0, code: 'no_answer' })
    expect((problem as ApiProblem).hint).toContain('kept')
  })
})

describe('problemOf', () => {
  it('makes something of an answer that is no problem of ours', () => {
    expect(problemOf(403, undefined)).toMatchObject({ status: 403, message: 'This page is out of date.' })
    expect(problemOf(502, '<html>')).toMatchObject({ status: 502, message: 'That did not work.' })
    expect(problemOf(400, { error: 'a sentence' })).toBeInstanceOf(ApiProblem)
  })
})
