import type { Shape } from '../../../api/client'

type Json = Shape<'Condition'>
export type Within = { amount: number; unit: 'days' | 'weeks' | 'months' }

/** A test as the sentence holds it; it may be unfinished. */
export type Test =
  | { kind: 'field'; field: string; is: string; value: unknown }
  | {
      kind: 'activity'
      activity: string
      within: Within | null
      letterId: number | null
      sequenceId: number | null
      link: string | null
      atLeast: number
    }
  | {
      kind: 'membership'
      membership: string
      sequenceId: number | null
      status: string[]
      step: number | null
      stepId: number | null
      laneId: number | null
    }
  | { kind: 'deals'; atLeast: number; where: Group }

/** Parts joined by one word; a group within a group is said in brackets. */
export type Group = { kind: 'group'; join: 'and' | 'or'; negated: boolean; parts: Part[] }
export type Part = Group | (Test & { negated: boolean })

/** The whole sentence before anything is said. */
export const EVERYBODY: Group = { kind: 'group', join: 'and', negated: false, parts: [] }

/** Whether enough has been chosen for the test to be asked. */
export function complete(test: Test): boolean {
  if (test.kind === 'deals') return true
  if (test.kind !== 'field') return true
  if (['empty', 'yes'].includes(test.is)) return true
  if (Array.isArray(test.value)) return test.value.length > 0 && test.value.every((one) => one !== null && one !== '')
  return test.value !== null && test.value !== undefined && test.value !== ''
}

function testToJson(test: Test): Json {
  switch (test.kind) {
    case 'field':
      return { field: test.field, is: test.is, ...(test.value === undefined || test.value === null ? {} : { value: test.value }) }
    case 'activity':
      return {
        activity: test.activity,
        ...(test.within ? { within: test.within } : {}),
        ...(test.letterId ? { letter_id: test.letterId } : {}),
        ...(test.sequenceId ? { sequence_id: test.sequenceId } : {}),
        ...(test.link ? { link: test.link } : {}),
        ...(test.atLeast > 1 ? { at_least: test.atLeast } : {}),
      }
    case 'membership':
      return {
        membership: test.membership,
        ...(test.sequenceId ? { sequence_id: test.sequenceId } : {}),
        ...(test.status.length > 0 ? { status: test.status } : {}),
        ...(test.step ? { step: test.step } : {}),
        ...(test.stepId ? { step_id: test.stepId } : {}),
        ...(test.laneId ? { lane_id: test.laneId } : {}),
      }
    case 'deals':
      return { deals: groupToJson(test.where) ?? {}, ...(test.atLeast > 1 ? { at_least: test.atLeast } : {}) }
  }
}

function partToJson(part: Part): Json | null {
  const json = part.kind === 'group' ? groupToJson(part) : complete(part) ? testToJson(part) : null
  return json && part.negated ? { not: json } : json
}

function groupToJson(group: Group): Json | null {
  const parts = group.parts.map(partToJson).filter((one): one is Json => one !== null)
  if (parts.length === 0) return null
  return group.join === 'or' ? { any: parts } : { all: parts }
}

/** The sentence as the tree that the API reads; unfinished tests are left out. */
export function toCondition(sentence: Group): Json {
  return groupToJson(sentence) ?? { all: [] }
}

/** Whether all of the sentence can be asked: what is left out of one that is kept would mean more people than it says. */
function finished(group: Group): boolean {
  return group.parts.every((part) => {
    if (part.kind === 'group') return part.parts.length > 0 && finished(part)
    return complete(part) && (part.kind !== 'deals' || finished(part.where))
  })
}

/** The condition that a whole sentence says; null before anything is said, and while something of it is. */
export function saidBy(sentence: Group): Json | null {
  return sentence.parts.length > 0 && finished(sentence) ? toCondition(sentence) : null
}

function testFromJson(json: Json): Test | null {
  if (json.field) return { kind: 'field', field: json.field, is: json.is ?? 'one_of', value: json.value ?? null }
  if (json.activity)
    return {
      kind: 'activity',
      activity: json.activity,
      within: (json.within as Within | undefined) ?? null,
      letterId: json.letter_id ?? null,
      sequenceId: json.sequence_id ?? null,
      link: json.link ?? null,
      atLeast: json.at_least ?? 1,
    }
  if (json.membership)
    return {
      kind: 'membership',
      membership: json.membership,
      sequenceId: json.sequence_id ?? null,
      status: json.status ?? [],
      step: json.step ?? null,
      stepId: json.step_id ?? null,
      laneId: json.lane_id ?? null,
    }
  if (json.deals) return { kind: 'deals', atLeast: json.at_least ?? 1, where: fromCondition(json.deals as Json) }
  return null
}

function partFromJson(json: Json): Part {
  if (json.not) {
    const inner = partFromJson(json.not)
    return inner.negated ? { kind: 'group', join: 'and', negated: true, parts: [inner] } : { ...inner, negated: true }
  }
  const test = testFromJson(json)
  if (test) return { ...test, negated: false }
  return { kind: 'group', join: json.any ? 'or' : 'and', negated: false, parts: (json.any ?? json.all ?? []).map(partFromJson) }
}

/** The tree as a sentence one can edit. */
export function fromCondition(json: Json | undefined): Group {
  if (!json || Object.keys(json).length === 0) return EVERYBODY
  const part = partFromJson(json)
  return part.kind === 'group' && !part.negated ? part : { kind: 'group', join: 'and', negated: false, parts: [part] }
}
