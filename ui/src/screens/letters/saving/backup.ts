// What was typed is on this machine before it is on the server, so that a lost connection, a shut page or a server that
// starts anew loses nothing.
type Backup<D> = { version: number; draft: D }
type Kind = 'letter' | 'passage'

const key = (kind: Kind, id: number) => `nimble.${kind}.${id}`

/** Keeps what is not saved yet, with the version it was typed on. A full or forbidden store is no reason to stop writing. */
export function keepBackup<D>(kind: Kind, id: number, version: number, draft: D, store: Storage = localStorage) {
  try {
    store.setItem(key(kind, id), JSON.stringify({ version, draft } satisfies Backup<D>))
  } catch {
    // Saving to the server goes on; only the second copy is missing.
  }
}

export function dropBackup(kind: Kind, id: number, store: Storage = localStorage) {
  store.removeItem(key(kind, id))
}

/** What was typed here and never reached the server. */
export function readBackup<D>(kind: Kind, id: number, store: Storage = localStorage): Backup<D> | null {
  const text = store.getItem(key(kind, id))
  if (!text) return null
  try {
    const kept: unknown = JSON.parse(text)
    return typeof kept === 'object' && kept !== null && 'version' in kept && 'draft' in kept ? (kept as Backup<D>) : null
  } catch {
    return null
  }
}
