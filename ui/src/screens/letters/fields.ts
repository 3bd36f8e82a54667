import { createContext } from 'react'
import type { Shape } from '../../api/client'

export type FieldInfo = Shape<'Field'>

/** The merge fields on offer. */
export const FieldsContext = createContext<FieldInfo[]>([])

const TYPED = /\{\{\s*([^{}|]{1,80}?)\s*(?:\|([^{}]{0,200}))?\}\}/

const plain = (words: string) => words.toLowerCase().replace(/[._]/g, ' ').replace(/\s+/g, ' ').trim()

/** The field that typed words name: by key, label or bare name. */
export function named(words: string, fields: FieldInfo[]): FieldInfo | undefined {
  const wanted = plain(words)
  return fields.find((field) => [plain(field.key), plain(field.label), plain(field.key.split('.')[1] ?? '')].includes(wanted))
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
