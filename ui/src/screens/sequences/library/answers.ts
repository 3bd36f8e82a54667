import type { Shape } from '../../../api/client'

export type Answers = Shape<'SequenceAnswers'>
export type Wanted = Shape<'SequenceAsks'>['wanted'][number]
type Kind = 'fields' | 'stages' | 'statuses' | 'outcomes' | 'colleagues' | 'lists' | 'sequences' | 'letters'

/** What was said to stand for something, or what plainly does; null where it is left open. */
export function answered(answers: Answers, { kind, id, here }: Wanted): string | number | null {
  const said = (answers[kind as Kind] as Record<string, string | number | null> | undefined) ?? {}
  return id in said ? (said[id] ?? null) : ((here as string | number | null | undefined) ?? null)
}

/** The answers with one more. */
export function withAnswer(answers: Answers, { kind, id }: Wanted, value: string | number | null): Answers {
  return { ...answers, [kind]: { ...(answers[kind as Kind] as object | undefined), [id]: value } }
}
