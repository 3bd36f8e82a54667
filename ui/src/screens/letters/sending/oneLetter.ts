import type { Shape } from '../../../api/client'

export type LetterStep = Shape<'Step'> & { letter_id: number }

/** The step of a sequence that is one letter and nothing else; null: it is a plan. */
export function oneLetter({ one_letter, steps }: Pick<Shape<'Sequence'>, 'one_letter' | 'steps'>): LetterStep | null {
  const [step] = steps
  // What is being changed is shown before the server has said what it is then.
  return one_letter && steps.length === 1 && step?.letter_id != null ? { ...step, letter_id: step.letter_id } : null
}
