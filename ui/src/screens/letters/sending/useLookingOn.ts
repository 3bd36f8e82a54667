import { useQueryClient } from '@tanstack/react-query'
import type { Shape } from '../../../api/client'
import { useReady } from './useReady'

/** For so many people it is worked out as one goes on; for more once, and again before it is sent. */
const FEW = 2000

/**
 * What sending would do, followed while somebody writes.
 *
 * @param settled whether what was typed is saved: nothing is worked out in between
 */
export function useLookingOn({ id, sieve, audience_said }: Shape<'Sequence'>, settled: boolean) {
  const looked = useQueryClient().getQueryData(['ready', id]) !== undefined
  return useReady(id, settled && audience_said && (sieve.would_get_it <= FEW || !looked))
}
