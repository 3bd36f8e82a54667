import type { Shape } from '../../../api/client'
import type { Choice } from '../../../parts/Choices'
import { EVERYBODY, type Group, type Part, type Test } from './conditions'

type Catalogue = Shape<'Catalogue'>
export type Field = Shape<'Field'>

/** How an operator is said in a menu. */
export const OPERATOR_WORDS: Record<string, string> = {
  one_of: 'is one of',
  all_of: 'is all of',
  contains: 'contains',
  starts_with: 'starts with',
  empty: 'is empty',
  yes: 'holds',
  equals: 'is exactly',
  more_than: 'is more than',
  less_than: 'is less than',
  between: 'is between',
  in_last: 'in the last',
  in_next: 'in the next',
  before: 'before',
  after: 'after',
  on: 'on',
  yearly_in_next: 'comes round in the next',
  yearly_in_last: 'came round in the last',
  month_is: 'in the month of',
}

/** What a field can be chosen from. */
export function options(catalogue: Catalogue, field: Field): Choice[] {
  if (field.type === 'choice' || field.type === 'choices') return field.choices
  if (field.type === 'reference')
    return [{ value: 'me', words: 'me' }, ...catalogue.colleagues.map((one) => ({ value: one.id, words: one.name }))]
  if (field.type === 'tags') return catalogue.tags.map((tag) => ({ value: tag, words: tag }))
  if (field.type === 'lists') return catalogue.lists.map((list) => ({ value: list.id, words: list.name }))
  if (field.key === 'person.city') return catalogue.cities.map((city) => ({ value: city, words: city }))
  return []
}

/** The value an operator begins with. */
export function freshValue(needs: string | undefined): unknown {
  switch (needs) {
    case 'list':
    case 'months':
      return []
    case 'span':
      return { amount: 30, unit: 'days' }
    case 'days':
      return 7
    case 'numbers':
    case 'dates':
      return ['', '']
    case 'none':
      return null
    default:
      return ''
  }
}

/** The test a new part of the sentence begins with. */
export function fresh(catalogue: Catalogue, key: string): Test {
  const [kind, name = ''] = key.includes(':') ? key.split(':') : ['field', key]
  if (kind === 'activity')
    return {
      kind: 'activity',
      activity: name,
      within: { amount: 90, unit: 'days' },
      letterId: null,
      sequenceId: null,
      link: null,
      atLeast: 1,
    }
  if (kind === 'membership')
    return { kind: 'membership', membership: name, sequenceId: null, status: [], step: null, stepId: null, laneId: null }
  if (kind === 'deals') return { kind: 'deals', atLeast: 1, where: EVERYBODY }
  const field = catalogue.fields.find((one) => one.key === name)
  const operators = catalogue.operators[field?.type ?? 'text'] ?? {}
  const is = Object.keys(operators)[0] ?? 'one_of'
  return { kind: 'field', field: name, is, value: freshValue(operators[is]) }
}

export type Entry = { key: string; words: string; group: string; tests?: Test[] }

const FIRST = ['person.standing', 'person.city', 'person.tags', 'person.lists', 'person.owner', 'company.type', 'company.name']

/** Everything one can ask about, what is asked most first. */
export function entries(catalogue: Catalogue, subject: 'person' | 'deal'): Entry[] {
  const fields = catalogue.fields.filter(
    (field) => field.uses.includes('condition') && !field.retired && (field.subject === 'deal') === (subject === 'deal'),
  )
  const sorted = [...fields].sort((a, b) => (FIRST.includes(b.key) ? 1 : 0) - (FIRST.includes(a.key) ? 1 : 0))
  const about = sorted.map((field) => ({
    key: field.key,
    words: field.label,
    group:
      subject === 'person' && FIRST.includes(field.key)
        ? 'Asked most'
        : field.subject === 'company'
          ? 'Company'
          : field.subject === 'deal'
            ? 'Deal'
            : 'Person',
  }))
  if (subject === 'deal') return about
  return [
    ...about,
    { key: 'deals:', words: 'Has a deal', group: 'Deals' },
    ...catalogue.activities.map((one) => ({ key: `activity:${one.key}`, words: `${one.words} a letter`, group: 'Letters' })),
    ...catalogue.memberships.map((one) => ({
      key: `membership:${one.key}`,
      words: `${one.words} a sequence`,
      group: 'Sequences',
    })),
  ]
}

const plain = (text: string) => text.toLowerCase().trim()

/** What people are called by, without saying by which field. */
const CALLED = ['person.standing', 'person.city', 'person.tags', 'person.lists', 'person.owner', 'company.type']

/** "leads" or "York" as the one field that has such a value; more than one, or none, is nothing said. */
function called(catalogue: Catalogue, words: string, among: string[] = CALLED): Entry | null {
  const wanted = [plain(words), plain(words).replace(/s$/, '')]
  const found = among.flatMap((key) => {
    const field = catalogue.fields.find((one) => one.key === key && one.uses.includes('condition') && !one.retired)
    const value = field && options(catalogue, field).find((one) => wanted.includes(plain(one.words)))
    return field && value
      ? [entry(field, `is ${value.words}`, { kind: 'field', field: key, is: 'one_of', value: [value.value] })]
      : []
  })
  return found.length === 1 ? (found[0] ?? null) : null
}

/** "leads in York" as who they are and where. */
function calledIn(catalogue: Catalogue, words: string): Entry[] | null {
  const whole = called(catalogue, words)
  if (whole) return [whole]
  const found = /^(.+?)\s+in\s+(.+)$/i.exec(words)
  const [, who = '', where = ''] = found ?? []
  const place = called(catalogue, where, ['person.city'])
  if (!place) return null
  if (/^(everyone|everybody|people)$/i.test(who.trim())) return [place]
  const them = called(catalogue, who)
  return them ? [them, place] : null
}

/** "city is york", "leads in York" or several of these with "and" between as finished tests; null while it is none. */
export function typed(catalogue: Catalogue, words: string): Entry | null {
  const read = (some: string) => calledIn(catalogue, some) ?? [typedTest(catalogue, some)]
  // "Tyne and Wear" is one place: where a part says nothing by itself, the whole is read.
  const parts = words
    .trim()
    .split(/\s+and\s+/i)
    .flatMap(read)
  const said = parts.length > 1 && parts.includes(null) ? read(words) : parts
  const entries = said.filter((one) => one !== null)
  const [only, more] = entries
  if (!only || entries.length < said.length) return null
  if (!more) return only
  return {
    key: `typed:${entries.map((one) => one.key).join()}`,
    words: entries.map((one) => one.words).join(' and '),
    group: 'As typed',
    tests: entries.flatMap((one) => one.tests ?? []),
  }
}

/** "city is york" as a finished test; null while it is not one. */
function typedTest(catalogue: Catalogue, words: string): Entry | null {
  const found = /^\s*(.+?)\s+(?:is|in|=|contains)\s+(.+?)\s*$/i.exec(words)
  if (!found) return null
  const [, name = '', given = ''] = found
  const field = catalogue.fields.find((one) => one.uses.includes('condition') && !one.retired && plain(one.label) === plain(name))
  if (!field) return null
  if (/\scontains\s/i.test(words) && catalogue.operators[field.type]?.contains)
    return entry(field, `contains “${given}”`, { kind: 'field', field: field.key, is: 'contains', value: given })
  if (!catalogue.operators[field.type]?.one_of) return null
  const wanted = given
    .split(/\s*(?:,|\bor\b)\s*/i)
    .map(plain)
    .filter(Boolean)
  const known = options(catalogue, field)
  const values = wanted.map(
    (word) =>
      known.find((one) => plain(one.words) === word)?.value ??
      known.find((one) => plain(one.words).startsWith(word))?.value ??
      (field.type === 'text' ? given.split(/\s*(?:,|\bor\b)\s*/i)[wanted.indexOf(word)] : undefined),
  )
  if (values.some((value) => value === undefined)) return null
  const said = values.map((value) => known.find((one) => one.value === value)?.words ?? String(value)).join(' or ')
  return entry(field, `is ${said}`, { kind: 'field', field: field.key, is: 'one_of', value: values })
}

function entry(field: Field, said: string, test: Test): Entry {
  return { key: `typed:${field.key}`, words: `${field.label} ${said}`, group: 'As typed', tests: [test] }
}

/** "York, Leeds or Hull". */
export function listWords(values: unknown, known: Choice[], last = 'or'): string {
  if (!Array.isArray(values) || values.length === 0) return 'choose…'
  const words = values.map((value) => known.find((one) => one.value === value)?.words ?? String(value))
  return words.length > 1 ? `${words.slice(0, -1).join(', ')} ${last} ${words.at(-1)}` : (words[0] ?? '')
}

/** Whether the words of a part follow a "who"; "whose city…" says itself whom it is about, and so does what is in brackets. */
function who(catalogue: Catalogue, part: Part, excepted: boolean): boolean {
  if (part.kind === 'group') return false
  if (part.kind !== 'field') return true
  const phrases = catalogue.fields.find((one) => one.key === part.field)?.phrases[part.is]
  return !/^(at whose|for whom|whose) /.test((part.negated && !excepted ? phrases?.denied : phrases?.words) ?? '')
}

/** "and not (is tagged press)" is said "except anyone who is tagged press". */
export function isException(group: Group, at: number): boolean {
  const part = group.parts[at]
  return at > 0 && group.join === 'and' && part?.kind === 'field' && part.negated
}

/** "who " where a part needs it: at the beginning, after an exception begins, and where the part before did not say it. */
export function whoBefore(catalogue: Catalogue, group: Group, at: number): string {
  const part = group.parts[at]
  const before = group.parts[at - 1]
  if (!part || !who(catalogue, part, isException(group, at))) return ''
  const said = before && !isException(group, at) && who(catalogue, before, isException(group, at - 1))
  return said ? '' : 'who '
}
