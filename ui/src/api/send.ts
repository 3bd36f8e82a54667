/** Why a request was turned away that can be sent again once somebody has given their password. */
export type Refusal = 'signed_out' | 'password_again' | 'out_of_date'

type AskPassword = (why: 'signed_out' | 'password_again') => Promise<boolean>

const IDLE_MS = 60_000
const AGAIN: Record<string, Refusal> = {
  '401 signed_out': 'signed_out',
  '403 password_again': 'password_again',
  '403 out_of_date': 'out_of_date',
}

let csrf = ''
let lastInput = Date.now()
let askPassword: AskPassword | null = null
let asking: Promise<boolean> | null = null

/** Keeps the token that every change must carry. */
export function setCsrf(token: string) {
  csrf = token
}

/** The token of the session as it is now. */
export const currentCsrf = () => csrf

/** Who asks for the password in the middle of something; one at a time. */
export function setAskPassword(ask: AskPassword | null) {
  askPassword = ask
}

/** Notes when somebody is at the page. */
export function watchInput(page: EventTarget) {
  for (const kind of ['keydown', 'pointerdown', 'wheel'])
    page.addEventListener(kind, () => {
      lastInput = Date.now()
    })
}

/** Which refusal an answer is, if it is one. */
export async function refusalOf(response: Response): Promise<Refusal | null> {
  if (response.status !== 401 && response.status !== 403) return null
  const body: unknown = await response
    .clone()
    .json()
    .catch(() => undefined)
  const code = (body as { error?: { code?: string } } | undefined)?.error?.code
  return AGAIN[`${response.status} ${code}`] ?? null
}

function decorated(request: Request): Request {
  if (request.method !== 'GET') request.headers.set('X-CSRF-Token', csrf)
  // What the page asks by itself, while nobody is at it, keeps nobody signed in.
  if (Date.now() - lastInput > IDLE_MS) request.headers.set('X-By-Itself', '1')
  return request
}

/** Begins with the session as the server has it; says whether anybody is signed in. */
async function freshSession(): Promise<boolean> {
  const response = await fetch('/api/session', { headers: { Accept: 'application/json' } })
  const session = (await response.json()) as { csrf: string; account: unknown }
  setCsrf(session.csrf)
  return Boolean(session.account)
}

async function mayGoOn(refusal: Refusal): Promise<boolean> {
  if (refusal === 'out_of_date' && (await freshSession())) return true
  if (!askPassword) return false
  // Several requests can be turned away at once; the password is asked for once.
  asking ??= askPassword(refusal === 'password_again' ? 'password_again' : 'signed_out').finally(() => {
    asking = null
  })
  return asking
}

/** Sends a request; one that only needs the password again is sent once more when it was given. */
export async function send(request: Request, again?: () => Request): Promise<Response> {
  // A file is not copied beside itself: whoever sends one says how to ask once more.
  const copy = again ? null : request.clone()
  const response = await fetch(decorated(request))
  const refusal = await refusalOf(response)
  if (!refusal || !(await mayGoOn(refusal))) return response
  return fetch(decorated(copy ?? again?.() ?? request))
}
