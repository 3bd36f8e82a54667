import type { Shape } from '../../../api/client'

export type Settings = Shape<'JoinSettings'>

/** By what people join, with whether it can be true of somebody before it is switched on. */
export const KINDS = {
  tag: { words: 'whoever gets a tag', nowToo: true },
  list: { words: 'whoever is put on a list', nowToo: true },
  filter: { words: 'whoever begins to fit a filter', nowToo: true },
  field: { words: 'whoever changes in a field', nowToo: false },
  yearly: { words: 'every year around a date of theirs', nowToo: false },
  file: { words: 'whoever is new with a file', nowToo: false },
  handed_over: { words: 'whoever another sequence hands over', nowToo: false },
} as const
export type Kind = keyof typeof KINDS

/** Whether enough is said of it. */
export const READY: Record<Kind, (settings: Settings) => boolean> = {
  tag: ({ tag_id, tag }) => Boolean(tag_id || tag?.trim()),
  list: ({ list_id }) => Boolean(list_id),
  filter: ({ audience }) => Object.values(audience ?? {}).some((part) => (Array.isArray(part) ? part.length > 0 : Boolean(part))),
  field: ({ field }) => Boolean(field),
  yearly: ({ field }) => Boolean(field),
  file: () => true,
  handed_over: () => true,
}

export const beginning = (kind: Kind): Settings => (kind === 'yearly' ? { days: -10 } : {})
