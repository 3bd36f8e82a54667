import { type QueryClient, useMutation, useQueryClient } from '@tanstack/react-query'
import { useRef } from 'react'
import type { Kept } from './stale'

type Versioned = { version: number }
type Key = readonly [Kept, number]

/**
 * One change of a record, on the newer of the version that this page left and the one it was shown since. Whoever makes several
 * makes them one after the other (useInTurn).
 *
 * @param key what the record is kept under, or would be
 * @param shown the version as the page shows it
 * @param send makes the change on the version it is given, and gives the record back
 */
export async function inTurn<Saved extends Versioned>(
  client: QueryClient,
  key: Key,
  shown: number,
  send: (version: number) => Promise<Saved>,
): Promise<Saved> {
  const left = ['version', ...key] as const
  try {
    const saved = await send(Math.max(shown, client.getQueryData<number>(left) ?? 0))
    client.setQueryData(left, saved.version)
    return saved
  } catch (error) {
    // Somebody else may have changed it; what the page is shown next says what to go on from.
    client.removeQueries({ queryKey: left })
    throw error
  }
}

/**
 * Saving one record from one page: its changes go one after the other, each on what the one before left; a colleague's change in
 * between is told, and nothing is overwritten. Several of these with one key take turns with each other.
 *
 * @param record as the page shows it
 */
export function useInTurn<Change, Saved extends Versioned>(
  key: Key,
  record: Versioned | undefined,
  send: (change: Change, version: number) => Promise<Saved>,
  { onSuccess, onError }: { onSuccess?: (saved: Saved) => void; onError?: () => void } = {},
) {
  const client = useQueryClient()
  const shown = useRef(0)
  shown.current = record?.version ?? 0
  return useMutation({
    scope: { id: key.join(' ') },
    mutationFn: (change: Change) => inTurn(client, key, shown.current, (version) => send(change, version)),
    onSuccess,
    onError,
  })
}
