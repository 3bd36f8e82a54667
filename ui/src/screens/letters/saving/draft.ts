import type { Shape } from '../../../api/client'

type Letter = Shape<'Letter'>

/** What of a letter one types, as far as it is not saved yet. */
export type Draft = Partial<
  Pick<Letter, 'name' | 'subject' | 'preview' | 'body' | 'manner' | 'category' | 'language' | 'about' | 'set_aside' | 'archived'>
>
