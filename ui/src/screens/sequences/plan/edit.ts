import type { Shape } from '../../../api/client'

type Input = Shape<'StepInput'>
type Lane = Shape<'LaneInput'>
export type Kind = NonNullable<Input['kind']>

/** Which row of steps: a lane by its place in its fork, or the trunk. */
export type Branch = { fork: number; lane: number } | null
/** Before the step that stands there now; behind the last one at its end. */
export type Place = { branch: Branch; at: number }

const lanesOf = (step: Input): Lane[] => step.lanes ?? []
const stepsOf = (lane: Lane): Input[] => lane.steps ?? []

/** The plan with the steps of one branch changed. */
function inBranch(steps: Input[], branch: Branch, change: (steps: Input[]) => Input[]): Input[] {
  if (!branch) return change(steps)
  return each(steps, (step) =>
    step.id === branch.fork
      ? { ...step, lanes: lanesOf(step).map((lane, i) => (i === branch.lane ? { ...lane, steps: change(stepsOf(lane)) } : lane)) }
      : step,
  )
}

/** Every step, wherever it stands, as it is to be; those within lanes first. */
function each(steps: Input[], change: (step: Input) => Input | null): Input[] {
  return steps.flatMap((step) => {
    const whole = step.lanes
      ? { ...step, lanes: step.lanes.map((lane) => ({ ...lane, steps: each(stepsOf(lane), change) })) }
      : step
    const changed = change(whole)
    return changed ? [changed] : []
  })
}

/** Every step in the order of the plan, those of lanes behind their fork. */
export const inOrder = (steps: Input[]): Input[] =>
  steps.flatMap((step) => [step, ...lanesOf(step).flatMap((lane) => inOrder(stepsOf(lane)))])

export function placeOf(steps: Input[], id: number, branch: Branch = null): Place | null {
  const at = steps.findIndex((step) => step.id === id)
  if (at >= 0) return { branch, at }
  for (const step of steps)
    for (const [lane, one] of lanesOf(step).entries()) {
      const found = placeOf(stepsOf(one), id, { fork: step.id ?? 0, lane })
      if (found) return found
    }
  return null
}

export const put = (steps: Input[], { branch, at }: Place, step: Input): Input[] =>
  inBranch(steps, branch, (some) => some.toSpliced(at, 0, step))

/** Where a step that was put there stands in the order of the plan, from 0. */
export function orderAt(steps: Input[], place: Place): number {
  const mark: Input = { kind: 'task' }
  return inOrder(put(steps, place, mark)).indexOf(mark)
}

/** Lanes can only wait for what comes before them, so what waited for it waits for anything of the kind. */
function forgotten(steps: Input[], gone: Set<number>): Input[] {
  return each(steps, (step) =>
    step.lanes
      ? {
          ...step,
          lanes: step.lanes.map((lane) => (gone.has(lane.test?.step_id ?? 0) ? { ...lane, test: anyOf(lane.test) } : lane)),
        }
      : step,
  )
}

function anyOf(test: Lane['test']): Lane['test'] {
  if (!test) return test
  const { step_id: _step, link: _link, outcome: _outcome, ...rest } = test
  return rest
}

const idsIn = (steps: Input[]) => new Set(inOrder(steps).flatMap((step) => (step.id ? [step.id] : [])))

export function takeOut(steps: Input[], id: number): Input[] {
  const gone = inOrder(steps).filter((step) => step.id === id)
  return forgotten(
    each(steps, (step) => (step.id === id ? null : step)),
    idsIn(gone),
  )
}

export const change = (steps: Input[], id: number, part: Partial<Input>): Input[] =>
  each(steps, (step) => (step.id === id ? { ...step, ...part } : step))

/** The plan with a step at another place; as it is where a fork would stand within itself. */
export function move(steps: Input[], id: number, to: Place): Input[] {
  const from = placeOf(steps, id)
  const step = inOrder(steps).find((one) => one.id === id)
  if (!from || !step || (to.branch && idsIn([step]).has(to.branch.fork))) return steps
  const same = from.branch?.fork === to.branch?.fork && from.branch?.lane === to.branch?.lane
  const at = same && to.at > from.at ? to.at - 1 : to.at
  if (same && at === from.at) return steps
  const without = each(steps, (one) => (one.id === id ? null : one))
  return stillBefore(put(without, { ...to, at }, step))
}

/** The steps of one row. */
function rowOf(steps: Input[], branch: Branch): Input[] {
  if (!branch) return steps
  const fork = inOrder(steps).find((step) => step.id === branch.fork)
  return stepsOf((fork && lanesOf(fork)[branch.lane]) ?? {})
}

/** One place on, or back, within its branch. */
export function moveBy(steps: Input[], id: number, by: 1 | -1): Input[] {
  const from = placeOf(steps, id)
  if (!from || from.at + by < 0 || from.at + by >= rowOf(steps, from.branch).length) return steps
  return move(steps, id, { ...from, at: by > 0 ? from.at + 2 : from.at - 1 })
}

/** What a lane waits for may have come to stand behind it. */
function stillBefore(steps: Input[]): Input[] {
  return each(steps, (step) => {
    const place = step.id && placeOf(steps, step.id)
    if (!step.lanes || !place) return step
    const before = new Set(comesBefore(steps, place).map((one) => one.id))
    const lanes = step.lanes.map((lane) =>
      lane.test?.step_id && !before.has(lane.test.step_id) ? { ...lane, test: anyOf(lane.test) } : lane,
    )
    return { ...step, lanes }
  })
}

/** The plan with a copy of a step behind it; its lanes are about the copies within it. */
export function copy(steps: Input[], id: number): Input[] {
  const from = placeOf(steps, id)
  const step = inOrder(steps).find((one) => one.id === id)
  if (!from || !step) return steps
  return put(steps, { ...from, at: from.at + 1 }, anew(step, idsIn([step])))
}

// What is new has a negative number until the server gives it one.
function anew(step: Input, within: Set<number>): Input {
  const number = (id: number | null | undefined) => (id && within.has(id) ? -id : id)
  const lanes = step.lanes?.map(({ id: _id, ...lane }) => ({
    ...lane,
    test: lane.test?.step_id ? { ...lane.test, step_id: number(lane.test.step_id) } : lane.test,
    steps: stepsOf(lane).map((one) => anew(one, within)),
  }))
  return { ...step, id: number(step.id), ...(lanes ? { lanes } : {}) }
}

/** The steps that can be behind somebody who comes to a place: those before it in its row, and before the forks it is in. */
export function comesBefore(steps: Input[], { branch, at }: Place): Input[] {
  const fork = branch && inOrder(steps).find((step) => step.id === branch.fork)
  const outer = fork && placeOf(steps, branch.fork)
  return [...(outer ? [...comesBefore(steps, outer), fork] : []), ...inOrder(rowOf(steps, branch).slice(0, at))]
}

/** A step as it begins, with the hours of the letter before it. */
export function fresh(kind: Kind, steps: Input[], place: Place): Input {
  const before = comesBefore(steps, place)
  const letter = before.findLast((step) => step.kind === 'letter')
  const first = before.length === 0
  const hours = {
    from_minute: letter?.from_minute ?? 540,
    to_minute: letter?.to_minute ?? 690,
    zone: letter?.zone ?? ('theirs' as const),
  }
  switch (kind) {
    case 'letter':
      return { kind, letter_id: null, counted: 'step', amount: first ? 0 : 3, unit: 'working_days', ...hours }
    case 'task':
      return { kind, of: 'owner', due_in: 1, waits: true, counted: 'step', amount: 0, unit: 'days', ...hours, zone: 'ours' }
    case 'fork': {
      const about = letter?.id ? { step_id: letter.id } : {}
      return {
        kind,
        within: { amount: 5, unit: 'working_days' },
        lanes: [
          { test: { kind: 'opened', ...about }, comes_back: true, steps: [] },
          { test: null, comes_back: true, steps: [] },
        ],
      }
    }
    default:
      return { kind, counted: 'step', amount: 0, unit: 'days', days: 'any', from_minute: 0, to_minute: 1440, zone: 'ours' }
  }
}
