import type { Shape } from '../../../api/client'

export type FieldInfo = Shape<'Field'>

const TYPED = /\{\{\s*([^{}|]{1,80}?)\s*(?:\|([^{}]{0,200}))?\}\}/

const plain = (words: string) => words.toLowerCase().replace(/[._]/g, ' ').replace(/\s+/g, ' ').trim()

/** The field that typed words name: by key, label or bare name. */
export function named(words: string, fields: FieldInfo[]): FieldInfo | undefined {
  const wanted = plain(words)
  return fields.find((field) => [plain(field.key), plain(field.label), plain(field.key.split('.')[1] ?? '')].includes(wanted))
}

/** A field's name within a text, where it could be meant. */
export type Place = { from: number; to: number; name: string }

/** Every {{name}} in a text that no field has. */
export function unknownNames(text: string, fields: FieldInfo[]): Place[] {
  return [...text.matchAll(new RegExp(TYPED, 'g'))]
    .filter((found) => !named(found[1] ?? '', fields))
    .map((found) => ({ from: found.index, to: found.index + found[0].length, name: found[1] ?? '' }))
}

/** How many letters have to be put in, taken out or exchanged (Levenshtein 1966), at most `most`. */
function distance(one: string, other: string, most: number): number {
  if (Math.abs(one.length - other.length) > most) return most + 1
  let row = Array.from({ length: other.length + 1 }, (_, i) => i)
  for (let i = 1; i <= one.length; i++) {
    const next = [i]
    for (let j = 1; j <= other.length; j++) {
      const exchanged = (row[j - 1] ?? 0) + (one[i - 1] === other[j - 1] ? 0 : 1)
      next.push(Math.min(exchanged, (row[j] ?? 0) + 1, (next[j - 1] ?? 0) + 1))
    }
    row = next
  }
  return row.at(-1) ?? most + 1
}

/** The field whose name is nearest to a wrong one, if any is near. */
export function nearest(words: string, fields: FieldInfo[]): FieldInfo | undefined {
  const wanted = plain(words)
  const most = Math.max(1, Math.floor(wanted.length / 3))
  const far = (field: FieldInfo) =>
    Math.min(distance(wanted, plain(field.label), most), distance(wanted, plain(field.key.split('.')[1] ?? ''), most))
  return fields
    .map((field) => ({ field, far: far(field) }))
    .filter((one) => one.far <= most)
    .sort((one, other) => one.far - other.far)[0]?.field
}

/** Fields whose name, or whose subject, begins or contains what was typed; the best first. */
export function matching(words: string, fields: FieldInfo[], most = 8): FieldInfo[] {
  const wanted = plain(words)
  const rank = (field: FieldInfo) => {
    const label = plain(field.label)
    if (label.startsWith(wanted)) return 0
    if (label.includes(wanted)) return 1
    return plain(field.key).includes(wanted) ? 2 : 3
  }
  return fields
    .map((field) => ({ field, rank: rank(field) }))
    .filter((one) => one.rank < 3)
    .sort((one, other) => one.rank - other.rank)
    .slice(0, most)
    .map((one) => one.field)
}

/** Which fields may stand in a letter: those of a deal only in one that is written for people with one. */
export function offered(fields: FieldInfo[], about: 'anybody' | 'deal'): FieldInfo[] {
  return fields.filter(
    (field) => field.uses.includes('merge') && !field.retired && (about === 'deal' || field.subject !== 'deal'),
  )
}

/** The first typed {{field}} in a text: where it stands and what it means; `field` is missing for an unknown name. */
export function typedField(
  text: string,
  fields: FieldInfo[],
): { index: number; length: number; name: string; field?: FieldInfo; fallback: string | null } | null {
  const found = TYPED.exec(text)
  if (!found) return null
  return {
    index: found.index,
    length: found[0].length,
    name: found[1] ?? '',
    field: named(found[1] ?? '', fields),
    fallback: found[2]?.trim() || null,
  }
}
