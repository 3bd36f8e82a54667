import createClient from 'openapi-fetch'
import type { components, paths } from './schema'
import { send } from './send'

export { currentCsrf, setCsrf } from './send'

/** Any shape of the contract, by name. */
export type Shape<Name extends keyof components['schemas']> = components['schemas'][Name]

/** An error as the API tells it; `status` 0 means that nothing answered. */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly hint?: string | null,
    readonly at?: string | null,
    readonly data: Record<string, unknown> = {},
  ) {
    super(message)
  }
}

export const api = createClient<paths>({ baseUrl: '/', fetch: (request: Request) => send(request) })

/** Sends a file as it is, without reading it into memory. */
export async function upload<T>(path: string, file: File): Promise<T> {
  const request = () =>
    new Request(path, {
      method: 'POST',
      body: file,
      headers: { 'Content-Type': 'application/octet-stream', Accept: 'application/json' },
    })
  const response = await send(request(), request).catch(() => {
    throw new ApiProblem(
      0,
      'no_answer',
      'The server does not answer.',
      'The file is still where it was. Try again when the server is back.',
    )
  })
  const body: unknown = await response.json().catch(() => undefined)
  if (!response.ok) throw problemOf(response.status, body)
  return body as T
}

type Answer<T> = { data?: T; error?: unknown; response: Response }

/** Waits for a call and hands back its data, or throws an ApiProblem. */
export async function ask<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await call
  } catch {
    throw new ApiProblem(
      0,
      'no_answer',
      'The server does not answer.',
      'What you typed is kept here. It is tried again when the server is back.',
    )
  }
  if (answer.response.ok) return answer.data as T
  throw problemOf(answer.response.status, answer.error)
}

/** Narrows whatever came back with an error status. */
export function problemOf(status: number, body: unknown): ApiProblem {
  const error = (body as { error?: Partial<Shape<'Problem'>['error']> } | undefined)?.error
  if (!error || typeof error === 'string')
    return new ApiProblem(
      status,
      'refused',
      status === 403 ? 'This page is out of date.' : 'That did not work.',
      'Load the page again.',
    )
  return new ApiProblem(
    status,
    error.code ?? 'refused',
    error.message ?? 'That did not work.',
    error.hint,
    error.at,
    (error.data ?? {}) as Record<string, unknown>,
  )
}
