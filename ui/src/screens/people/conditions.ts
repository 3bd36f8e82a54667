import type { Shape } from '../../api/client'

type Json = Shape<'Condition'>

/** A test as the sentence holds it. */
export type Test =
  | { kind: 'field'; field: string; is: string; value: unknown }
  | { kind: 'activity'; activity: string; withinDays: number | null; letterId: number | null; negated: boolean }

/** Part of the sentence: its tests are joined by "or", the parts by "and" or "but not". */
export type Clause = { butNot: boolean; tests: Test[] }

function testToJson(test: Test): Json {
  if (test.kind === 'field')
    return {
      field: test.field,
      is: test.is,
      ...(test.value === undefined || test.value === null ? {} : { value: test.value }),
    } as Json
  const happened: Json = {
    activity: test.activity,
    ...(test.withinDays ? { within_days: test.withinDays } : {}),
    ...(test.letterId ? { letter_id: test.letterId } : {}),
  }
  return test.negated ? { not: happened } : happened
}

/** Whether enough has been chosen for the test to be asked. */
export function complete(test: Test): boolean {
  if (test.kind === 'activity') return true
  if (['empty', 'yes'].includes(test.is)) return true
  return Array.isArray(test.value) ? test.value.length > 0 : test.value !== null && test.value !== undefined && test.value !== ''
}

/** The sentence as the tree that the API reads; unfinished tests are left out. */
export function toCondition(clauses: Clause[]): Json {
  const parts = clauses.flatMap((clause) => {
    const tests = clause.tests.filter(complete).map(testToJson)
    if (tests.length === 0) return []
    const joined: Json = tests.length === 1 && tests[0] ? tests[0] : { any: tests }
    return [clause.butNot ? { not: joined } : joined]
  })
  return { all: parts }
}

function testFromJson(json: Json): Test | null {
  if (json.field) return { kind: 'field', field: json.field, is: json.is ?? 'one_of', value: json.value ?? null }
  if (json.activity)
    return {
      kind: 'activity',
      activity: json.activity,
      withinDays: json.within_days ?? null,
      letterId: json.letter_id ?? null,
      negated: false,
    }
  if (json.not?.activity) {
    const inner = testFromJson(json.not)
    return inner?.kind === 'activity' ? { ...inner, negated: true } : null
  }
  return null
}

function clauseFromJson(json: Json): Clause | null {
  const test = testFromJson(json)
  if (test) return { butNot: false, tests: [test] }
  if (json.not) {
    const inner = clauseFromJson(json.not)
    return inner && !inner.butNot ? { ...inner, butNot: true } : null
  }
  if (json.any) {
    const tests = json.any.map(testFromJson)
    return tests.every((one): one is Test => one !== null) ? { butNot: false, tests } : null
  }
  return null
}

/** The tree as a sentence one can edit; null when it is nested deeper than the sentence goes. */
export function fromCondition(json: Json | undefined): Clause[] | null {
  if (!json || Object.keys(json).length === 0) return []
  const parts = json.all ?? [json]
  const clauses = parts.map(clauseFromJson)
  return clauses.every((one): one is Clause => one !== null) ? clauses : null
}
