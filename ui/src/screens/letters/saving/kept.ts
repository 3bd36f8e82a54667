import { api, ask, type Shape } from '../../../api/client'
import type { Draft } from './draft'

/** What is kept of any text besides its words. */
export type Version = { id: number; version: number; updated_at: string }

/** How what one writes is kept, letters and passages alike: D is what of it is typed, R the record that comes back. */
export type Kept<D extends object = Draft, R extends Version = Shape<'Letter'>> = {
  kind: 'letter' | 'passage'
  read: (id: number) => Promise<R>
  save: (id: number, draft: D, version: number) => Promise<R>
  /** Keeps a text beside the one that somebody else wrote. */
  setAside: (id: number, draft: D) => Promise<unknown>
  versions: (id: number) => Promise<Shape<'Versions'>>
  compare: (id: number, number: number, other: number | null) => Promise<Shape<'Compared'>>
  restore: (id: number, number: number, version: number) => Promise<R>
}

export const LETTERS: Kept = {
  kind: 'letter',
  read: (id) => ask(api.GET('/api/letters/{id}', { params: { path: { id } } })),
  save: (id, draft, version) => ask(api.PATCH('/api/letters/{id}', { params: { path: { id } }, body: { ...draft, version } })),
  setAside: (id, { set_aside: _, archived: __, ...content }) =>
    ask(api.POST('/api/letters/{id}/versions', { params: { path: { id } }, body: content })),
  versions: (id) => ask(api.GET('/api/letters/{id}/versions', { params: { path: { id } } })),
  compare: (id, number, other) =>
    ask(
      api.GET('/api/letters/{id}/versions/{number}', {
        params: { path: { id, number }, query: other ? { with: other } : {} },
      }),
    ),
  restore: (id, number, version) =>
    ask(api.POST('/api/letters/{id}/versions/{number}/restore', { params: { path: { id, number } }, body: { version } })),
}

/** What of a passage one types, as far as it is not saved yet. */
export type PassageDraft = Partial<Pick<Shape<'Passage'>, 'name' | 'documents'>>

export const PASSAGES: Kept<PassageDraft, Shape<'Passage'>> = {
  kind: 'passage',
  read: (id) => ask(api.GET('/api/passages/{id}', { params: { path: { id } } })),
  save: (id, draft, version) => ask(api.PATCH('/api/passages/{id}', { params: { path: { id } }, body: { ...draft, version } })),
  setAside: (id, draft) => ask(api.POST('/api/passages/{id}/versions', { params: { path: { id } }, body: draft })),
  versions: (id) => ask(api.GET('/api/passages/{id}/versions', { params: { path: { id } } })),
  compare: (id, number, other) =>
    ask(
      api.GET('/api/passages/{id}/versions/{number}', {
        params: { path: { id, number }, query: other ? { with: other } : {} },
      }),
    ),
  restore: (id, number, version) =>
    ask(api.POST('/api/passages/{id}/versions/{number}/restore', { params: { path: { id, number } }, body: { version } })),
}
