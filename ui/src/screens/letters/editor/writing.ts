import { createContext } from 'react'
import type { FieldInfo } from './fields'

/** What the blocks of a letter need to know about the letter they stand in. */
export type Writing = {
  fields: FieldInfo[]
  manner: 'plain' | 'designed'
  /** Whom it is written for, and how many of them have nothing for a field, or see a passage. */
  audience: AudienceCounts | undefined
  /** What is written: the blocks on offer depend on it. */
  within: 'letter' | 'passage' | 'signature'
}

export type AudienceCounts = {
  letterId: number
  /** The sequence it is looked at for, where one is. */
  sequenceId?: number
  words: string
  total: number
  without: Record<string, number | null>
  /** By the JSON of the condition. */
  seeing: Record<string, { words: string; people?: number | null }>
}

export const NO_WRITING: Writing = { fields: [], manner: 'plain', audience: undefined, within: 'letter' }
export const WritingContext = createContext<Writing>(NO_WRITING)
