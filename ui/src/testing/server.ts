import { vi } from 'vitest'

export type Asked = { method: string; path: string; query: Record<string, string>; body: unknown }
type Answer = { status?: number; body?: unknown } | 'away'

/**
 * Stands in for the server: answers by "METHOD /path" and remembers what was asked. What it has no answer for is an
 * error, so that no test passes by chance.
 */
export function standIn(answers: Record<string, (asked: Asked) => Answer | Promise<Answer>>) {
  const asked: Asked[] = []
  vi.stubGlobal('fetch', async (input: Request | string, init?: RequestInit) => {
    const request = input instanceof Request ? input : new Request(input, init)
    const text = await request.text()
    const url = new URL(request.url)
    const query = Object.fromEntries(url.searchParams)
    const one = { method: request.method, path: url.pathname, query, body: text ? JSON.parse(text) : undefined }
    asked.push(one)
    const answer = answers[`${one.method} ${one.path}`]
    if (!answer) throw new Error(`nobody answers ${one.method} ${one.path}`)
    const given = await answer(one)
    if (given === 'away') throw new TypeError('Failed to fetch')
    return new Response(JSON.stringify(given.body ?? {}), {
      status: given.status ?? 200,
      headers: { 'Content-Type': 'application/json' },
    })
  })
  return { asked, of: (method: string) => asked.filter((one) => one.method === method).map((one) => one.body) }
}

/** An answer that comes when the test says so. */
export function held() {
  let give: (answer: Answer) => void = () => undefined
  const answer = new Promise<Answer>((resolve) => {
    give = resolve
  })
  return { answer, give: (given: Answer) => give(given) }
}

/** What the API says when a colleague was quicker. */
export const OVERTAKEN = {
  status: 409,
  body: { error: { code: 'changed_meanwhile', message: 'Petra changed this meanwhile.', data: { version: 9 } } },
}
