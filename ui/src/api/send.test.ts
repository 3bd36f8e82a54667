import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'

const problem = (status: number, code: string) => new Response(JSON.stringify({ error: { code } }), { status })
const fine = () => new Response('{}', { status: 200 })
const session = (csrf: string, account: unknown) => new Response(JSON.stringify({ csrf, account }), { status: 200 })

describe('send', () => {
  let fetched: Request[]
  let answers: Response[]
  let page: EventTarget
  let send: typeof import('./send')

  beforeEach(async () => {
    fetched = []
    answers = []
    vi.stubGlobal(
      'fetch',
      vi.fn((request: Request | string) => {
        fetched.push(typeof request === 'string' ? new Request(`http://here.example${request}`) : request)
        return Promise.resolve(answers.shift() ?? fine())
      }),
    )
    vi.resetModules()
    send = await import('./send')
    page = new EventTarget()
    send.watchInput(page)
    send.setCsrf('first')
  })
  afterEach(() => {
    vi.unstubAllGlobals()
    vi.useRealTimers()
  })

  const change = () => new Request('http://here.example/api/people', { method: 'POST', body: '{"a":1}' })

  it('carries the token of the session with a change, and not with a question', async () => {
    await send.send(change())
    await send.send(new Request('http://here.example/api/today'))
    expect(fetched.map((one) => one.headers.get('X-CSRF-Token'))).toEqual(['first', null])
  })

  it('asks for the password once, and sends what was turned away again, whole', async () => {
    answers = [problem(403, 'password_again'), problem(403, 'password_again')]
    const asked = vi.fn(() => Promise.resolve(true))
    send.setAskPassword(asked)
    const both = await Promise.all([send.send(change()), send.send(change())])

    expect(asked.mock.calls).toEqual([['password_again']])
    expect(both.map((one) => one.status)).toEqual([200, 200])
    expect(fetched).toHaveLength(4)
    await expect(fetched[3]?.text()).resolves.toBe('{"a":1}')
  })

  it('hands on the refusal when nobody gives the password', async () => {
    answers = [problem(401, 'signed_out')]
    send.setAskPassword(() => Promise.resolve(false))
    expect((await send.send(change())).status).toBe(401)
    expect(fetched).toHaveLength(1)
  })

  it('takes a new token by itself when the page was out of date', async () => {
    answers = [problem(403, 'out_of_date'), session('second', { id: 1 })]
    expect((await send.send(change())).status).toBe(200)
    expect(fetched.at(-1)?.headers.get('X-CSRF-Token')).toBe('second')
  })

  it('asks for nothing when it is simply not allowed', async () => {
    answers = [problem(403, 'admins_only')]
    const asked = vi.fn(() => Promise.resolve(true))
    send.setAskPassword(asked)
    expect((await send.send(change())).status).toBe(403)
    expect(asked).not.toHaveBeenCalled()
  })

  it('sends a file again from where it is', async () => {
    answers = [problem(401, 'signed_out')]
    send.setAskPassword(() => Promise.resolve(true))
    const make = vi.fn(change)
    await send.send(make(), make)
    expect(make).toHaveBeenCalledTimes(2)
    expect(fetched).toHaveLength(2)
  })

  it('says which questions the page asks by itself', async () => {
    vi.useFakeTimers()
    const ask = () => send.send(new Request('http://here.example/api/today'))
    await ask()
    vi.advanceTimersByTime(120_000)
    await ask()
    page.dispatchEvent(new Event('keydown'))
    await ask()
    expect(fetched.map((one) => one.headers.get('X-By-Itself'))).toEqual([null, '1', null])
  })
})
