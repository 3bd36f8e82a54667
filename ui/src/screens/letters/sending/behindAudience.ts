import { api, ask, type Shape } from '../../../api/client'

/** Pages of the people at one stage of the sieve, see the contract. */
export const behindAudience = (audience: Shape<'Audience'>, part: string, sequenceId?: number) => (cursor?: string) =>
  ask(
    api.POST('/api/audience/people', {
      body: { audience, part, cursor, ...(sequenceId ? { sequence_id: sequenceId } : {}) },
    }),
  )
