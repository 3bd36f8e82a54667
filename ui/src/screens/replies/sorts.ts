import type { Shape } from '../../api/client'

/** What somebody made of a reply. */
export type Sort = Shape<'Reply'>['sort']
