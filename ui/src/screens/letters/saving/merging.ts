import { diff3Merge } from 'node-diff3'
import type { Shape } from '../../../api/client'

type Doc = Shape<'Document'>
type Block = Record<string, unknown>

/** Where two wrote at the same place: what stands there on this page, and what a colleague saved. */
export type Overlap = { mine: string; theirs: string }

/** A value as it is compared: whatever order its keys have, and without what is not said. */
export function plain(value: unknown): string {
  return JSON.stringify(value, (_key, part: unknown) => {
    if (part === null || typeof part !== 'object' || Array.isArray(part)) return part
    const said = Object.entries(part).filter(([, one]) => one !== null && one !== undefined)
    return Object.fromEntries(said.sort(([one], [other]) => (one < other ? -1 : 1)))
  })
}

const isDoc = (value: unknown): value is Doc => (value as { type?: string } | null)?.type === 'doc'

/** The words of some blocks, or of any value, as one reads them. */
function words(value: unknown): string {
  if (Array.isArray(value)) return value.map(words).join(' ').trim()
  if (value === null || typeof value !== 'object') return String(value ?? '')
  const { text, content, attrs } = value as { text?: string; content?: unknown[]; attrs?: { field?: string } }
  return text ?? (content ? words(content) : attrs?.field ? `{{${attrs.field}}}` : '')
}

/**
 * Puts together what two wrote into one text, block by block (three-way merge, Khanna, Kunal and Pierce 2007).
 *
 * @param base what both began with
 * @returns the blocks, and the places at which both changed the same one
 */
export function mergeBlocks(base: Doc, mine: Doc, theirs: Doc): { doc: Doc; overlaps: Overlap[] } {
  const blocks = new Map<string, Block>()
  const read = (doc: Doc) =>
    ((doc as { content?: Block[] }).content ?? []).map((block) => {
      blocks.set(plain(block), block)
      return plain(block)
    })
  const found = (keys: string[]) => keys.map((key) => blocks.get(key)).filter((block) => block !== undefined)
  const overlaps: Overlap[] = []
  const content = diff3Merge(read(mine), read(base), read(theirs), { excludeFalseConflicts: true }).flatMap((part) => {
    if (part.ok) return found(part.ok)
    const { a, o, b } = part.conflict ?? { a: [], o: [], b: [] }
    // Blocks that stand beside each other are still two.
    const pairs = a.length === o.length && b.length === o.length ? o.map((was, n) => [was, a[n] ?? '', b[n] ?? ''] as const) : []
    const apart = pairs.length > 0 && pairs.every(([was, one, other]) => one === was || other === was || one === other)
    if (apart) return found(pairs.map(([was, one, other]) => (one === was ? other : one)))
    overlaps.push({ mine: words(found(a)), theirs: words(found(b)) })
    return found(a)
  })
  return { doc: { ...mine, content } as Doc, overlaps }
}

/**
 * Puts together what was typed here and what a colleague saved meanwhile.
 *
 * @param base the record as this page knew it
 * @param mine of it, what was typed here
 * @returns what was typed, with theirs in it; and where both changed the same
 */
export function mergeDraft<Draft extends object>(
  base: object,
  mine: Draft,
  theirs: object,
): { draft: Draft; overlaps: Overlap[] } {
  const overlaps: Overlap[] = []
  const of = (record: object, key: string) => (record as Record<string, unknown>)[key]
  const draft = Object.entries(mine).map(([key, typed]) => {
    const [was, other] = [of(base, key), of(theirs, key)]
    if (plain(other) === plain(was)) return [key, typed]
    if (plain(typed) === plain(was) || plain(typed) === plain(other)) return [key, other]
    if (isDoc(was) && isDoc(typed) && isDoc(other)) {
      const merged = mergeBlocks(was, typed, other)
      overlaps.push(...merged.overlaps)
      return [key, merged.doc]
    }
    if ([was, typed, other].every((one) => one !== null && typeof one === 'object' && !Array.isArray(one) && !isDoc(one))) {
      const parts = { ...(other as object), ...(typed as object) }
      const goneHere = (part: string) => of(was as object, part) !== undefined && of(typed as object, part) === undefined
      const still = Object.entries(parts).filter(([part]) => !goneHere(part))
      const merged = mergeDraft(was as object, Object.fromEntries(still), other as object)
      overlaps.push(...merged.overlaps)
      return [key, merged.draft]
    }
    overlaps.push({ mine: words(typed), theirs: words(other) })
    return [key, typed]
  })
  return { draft: Object.fromEntries(draft) as Draft, overlaps }
}
