import { ApiProblem } from '../api/client'

const AWAY_MS = 3000

/** Whether the server, or its records, do not answer at the moment: not an answer that anything is wrong. */
export const isAway = (error: unknown) => error instanceof ApiProblem && (error.status === 0 || error.status === 503)

/** How soon to ask again as long as that is so: a screen whose records were away comes back by itself. */
export const whileAway = (error: unknown) => isAway(error) && AWAY_MS

/**
 * What stands in the way of a screen. A server that is away for a while does not, as long as there is something to show: nobody loses
 * the page in which they type.
 */
export const inTheWay = (error: unknown, shown: unknown) => (shown !== undefined && isAway(error) ? null : error)
