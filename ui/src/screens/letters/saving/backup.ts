import type { Draft } from './draft'

// What was typed is on this machine before it is on the server, so that a lost connection, a shut page or a server that
// starts anew loses nothing.
type Backup = { version: number; draft: Draft }

const key = (id: number) => `nimble.letter.${id}`

/** Keeps what is not saved yet, with the version it was typed on. A full or forbidden store is no reason to stop writing. */
export function keepBackup(id: number, version: number, draft: Draft, store: Storage = localStorage) {
  try {
    store.setItem(key(id), JSON.stringify({ version, draft } satisfies Backup))
  } catch {
    // Saving to the server goes on; only the second copy is missing.
  }
}

export function dropBackup(id: number, store: Storage = localStorage) {
  store.removeItem(key(id))
}

/** What was typed here and never reached the server. */
export function readBackup(id: number, store: Storage = localStorage): Backup | null {
  const text = store.getItem(key(id))
  if (!text) return null
  try {
    const kept: unknown = JSON.parse(text)
    return typeof kept === 'object' && kept !== null && 'version' in kept && 'draft' in kept ? (kept as Backup) : null
  } catch {
    return null
  }
}
