import type { Shape } from '../../../api/client'
import { plural } from '../../../app/format'

type Step = Shape<'Step'>
type Input = Shape<'StepInput'>

/** A step with the lane it is in, and how many forks it stands within. */
export type Placed = { step: Step; lane: string | null; depth: number }

/** Every step of a plan in its order, those of lanes behind their fork. */
export function flat(steps: Step[], lane: string | null = null, depth = 0): Placed[] {
  return steps.flatMap((step) => [
    { step, lane, depth },
    ...(step.lanes ?? []).flatMap((one) => flat(one.steps, one.headline, depth + 1)),
  ])
}

/** The step that comes right before one in its own row; for the first of a lane the fork it is in; null: it is the first of all. */
export function leading(steps: Step[], id: number): { step: Step; inside: boolean } | null | undefined {
  const at = steps.findIndex((step) => step.id === id)
  if (at >= 0) return at > 0 ? { step: steps[at - 1] as Step, inside: false } : null
  for (const step of steps)
    for (const lane of step.lanes ?? []) {
      const found = leading(lane.steps, id)
      if (found !== undefined) return found ?? { step, inside: true }
    }
  return undefined
}

/** The steps that can be behind somebody who stands before one: those before it in its own row, and before the forks it is in. */
export function comesBefore(steps: Step[], id: number): Step[] | null {
  const all = (some: Step[]) => flat(some).map(({ step }) => step)
  const at = steps.findIndex((step) => step.id === id)
  if (at >= 0) return all(steps.slice(0, at))
  for (const [i, step] of steps.entries())
    for (const lane of step.lanes ?? []) {
      const inside = comesBefore(lane.steps, id)
      if (inside) return [...all(steps.slice(0, i)), step, ...inside]
    }
  return null
}

/** "2 gaps", or "up to 2 gaps" where a passage depends on more than the records. */
export function gapsIn(step: Step, one: string, many?: string): string {
  const words = plural(step.gaps ?? 0, one, many)
  return step.gaps_at_most ? `up to ${words}` : words
}

/** A step as it is sent back, with its lanes. */
export function stepInput(step: Step): Input {
  const { id, kind, only_for, not_after } = step
  const common = { id, kind, only_for: only_for ?? null, not_after: not_after ?? null }
  if (kind === 'fork') {
    const lanes = (step.lanes ?? []).map(({ id, words, test, comes_back, steps }) => ({
      ...{ id, words: words ?? null, test: test ?? null, comes_back },
      steps: steps.map(stepInput),
    }))
    return { id, kind, within: step.within ?? null, lanes }
  }
  const { counted, amount, unit, on_date, field, yearly, from_minute, to_minute, weekdays, days, zone, late, no_date } = step
  const timing = {
    ...{ counted, amount, unit, on_date: on_date ?? null, field: field ?? null, yearly },
    ...{ from_minute, to_minute, weekdays, days, zone, late, no_date },
  }
  return { ...common, ...timing, ...ownParts(step) }
}

function ownParts(step: Step): Partial<Input> {
  switch (step.kind) {
    case 'letter': {
      const { look_first, same_thread, without_it } = step
      return given({ letter_id: step.letter_id ?? null, other: step.other ?? null, look_first, same_thread, without_it })
    }
    case 'task': {
      const { words, of, due_in, waits, outcomes } = step
      return given({ words, of, due_in, waits, outcomes })
    }
    case 'change':
      return given({ what: step.what, to: step.to })
    case 'hand_over':
      return given({ sequence_id: step.sequence_id, stays: step.stays })
    default:
      return {}
  }
}

/** What was not said stays unsaid. */
function given<T extends object>(parts: T): Partial<T> {
  return Object.fromEntries(Object.entries(parts).filter(([, value]) => value !== undefined)) as Partial<T>
}

/** The plan as it will be, for the page, while it is on its way; nothing while a step waits for its number. */
export function shown(kept: Step[], sent: Input[]): Step[] | null {
  const known = new Map(flat(kept).map(({ step }) => [step.id, step]))
  const merged = sent.map((input): Step | null => {
    const before = input.id == null ? undefined : known.get(input.id)
    if (!before) return null
    const { lanes, ...rest } = input
    if (!before.lanes) return { ...before, ...rest, id: before.id } as Step
    const inside = before.lanes.map((lane) => {
      const one = lanes?.find((other) => other.id === lane.id)
      const steps = one && shown(kept, one.steps ?? [])
      return steps && { ...lane, words: one.words, test: one.test, comes_back: one.comes_back ?? lane.comes_back, steps }
    })
    // One lane more waits for its number.
    const all = inside.every(Boolean) && lanes?.length === inside.length
    return all ? ({ ...before, within: input.within, lanes: inside } as Step) : null
  })
  return merged.every((step) => step !== null) ? merged : null
}
