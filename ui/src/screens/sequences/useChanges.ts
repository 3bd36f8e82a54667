import { useQueryClient } from '@tanstack/react-query'
import { useRef } from 'react'
import type { Shape } from '../../api/client'
import { useUnsaved } from '../../app/keys'
import type { Kept } from '../../app/stale'
import { useInTurn } from '../../app/useInTurn'
import { shown } from './plan/plan'

type Sequence = Shape<'Sequence'>
export type Change = {
  name?: string
  audience?: Shape<'Audience'>
  sender?: Shape<'Sender'>
  leave_on?: ('replied' | 'converted')[]
  leave_if?: Shape<'Condition'> | null
  ends_at?: string | null
  steps?: Shape<'StepInput'>[]
}

/**
 * Changes of a plan, each shown before it is saved, so that the next is made on it however quickly one follows the other.
 *
 * @param sequence as the page shows it; its version is the one that a change is made on
 * @param onSaved what else has changed by it
 */
export function useChanges(
  key: readonly [Kept, number],
  sequence: Sequence | undefined,
  send: (change: Change, version: number) => Promise<Sequence>,
  onSaved: () => void,
) {
  const client = useQueryClient()
  const under = useRef(0)
  const saving = useInTurn(key, sequence, send, {
    // What was changed since is on the page already, and on its way.
    onSuccess: (saved) => {
      under.current -= 1
      if (under.current > 0) return
      client.setQueryData(key, saved)
      onSaved()
    },
    onError: () => {
      under.current -= 1
      client.invalidateQueries({ queryKey: key })
    },
  })
  useUnsaved(() => under.current > 0)
  const show = (change: Change) => {
    under.current += 1
    // What is being read is older than what is shown from now on.
    client.cancelQueries({ queryKey: key, exact: true })
    client.setQueryData<Sequence>(key, (kept) => kept && changed(kept, change))
  }
  return {
    error: saving.error,
    mutate: (change: Change) => {
      show(change)
      saving.mutate(change)
    },
    /** The same, answered once it is saved. */
    made: (change: Change) => {
      show(change)
      return saving.mutateAsync(change)
    },
  }
}

/** A sequence as it will be; steps that are new wait for their number. */
function changed(kept: Sequence, { steps, ...rest }: Change): Sequence {
  return { ...kept, ...rest, steps: (steps && shown(kept.steps, steps)) ?? kept.steps }
}
