import type { Shape } from '../../api/client'
import { useCatalogue } from '../../app/useCatalogue'
import { type Choice, Choices } from '../../parts/Choices'
import { Popover } from '../../parts/Popover'
import type { Clause, Test } from './conditions'

type Catalogue = Shape<'Catalogue'>
const DAYS = [7, 14, 30, 60, 90, 180, 365]
const OPERATOR_WORDS: Record<string, string> = {
  one_of: 'is',
  contains: 'contains',
  starts_with: 'starts with',
  empty: 'is empty',
  in_last_days: 'in the last',
  in_next_days: 'in the next',
  before: 'before',
  after: 'after',
  yes: 'yes',
}
const NEW_FIELDS = ['person.standing', 'person.city', 'person.tags', 'person.owner', 'company.type', 'company.name']

function options(catalogue: Catalogue, key: string): Choice[] {
  const field = catalogue.fields.find((one) => one.key === key)
  if (field?.type === 'choice') return field.choices
  if (field?.type === 'reference')
    return [{ value: 'me', words: 'me' }, ...catalogue.colleagues.map((one) => ({ value: one.id, words: one.name }))]
  if (field?.type === 'tags') return catalogue.tags.map((tag) => ({ value: tag, words: tag }))
  if (key === 'person.city') return catalogue.cities.map((city) => ({ value: city, words: city }))
  return []
}

function listWords(values: unknown, known: Choice[]): string {
  if (!Array.isArray(values) || values.length === 0) return 'choose…'
  const words = values.map((value) => known.find((one) => one.value === value)?.words ?? String(value))
  return words.length > 1 ? `${words.slice(0, -1).join(', ')} or ${words.at(-1)}` : (words[0] ?? '')
}

/** The test a new part of the sentence begins with. */
function fresh(catalogue: Catalogue, key: string): Test {
  if (key.startsWith('activity:'))
    return { kind: 'activity', activity: key.slice(9), withinDays: 90, letterId: null, negated: false }
  const field = catalogue.fields.find((one) => one.key === key)
  const is = Object.keys(catalogue.operators[field?.type ?? 'text'] ?? {})[0] ?? 'one_of'
  return { kind: 'field', field: key, is, value: is === 'one_of' ? [] : is.includes('days') ? 30 : null }
}

/** A menu of everything one can ask about. */
function AskAbout({
  catalogue,
  words,
  label,
  onPick,
  className = 'quiet-word',
}: {
  catalogue: Catalogue
  words: string
  label: string
  onPick: (test: Test) => void
  className?: string
}) {
  const fields = catalogue.fields.filter((field) => field.uses.includes('condition'))
  const sorted = [...fields].sort((a, b) => (NEW_FIELDS.includes(b.key) ? 1 : 0) - (NEW_FIELDS.includes(a.key) ? 1 : 0))
  const entries = [
    ...sorted.map((field) => ({ key: field.key, words: field.label })),
    ...catalogue.activities.map((one) => ({ key: `activity:${one.key}`, words: `${one.words} a letter` })),
  ]
  return (
    <Popover words={words} label={label} className={className}>
      {(shut) => (
        <ul className="columns-2 gap-4 w-80">
          {entries.map((entry) => (
            <li key={entry.key}>
              <button
                type="button"
                className="w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200"
                onClick={() => {
                  onPick(fresh(catalogue, entry.key))
                  shut()
                }}
              >
                {entry.words}
              </button>
            </li>
          ))}
        </ul>
      )}
    </Popover>
  )
}

function DaysWord({ value, onChange }: { value: number | null; onChange: (days: number | null) => void }) {
  return (
    <Popover words={value ? `${value} days` : 'any time'} label={`Within ${value ?? 'any'} days`}>
      {(shut) => (
        <div className="w-40">
          {DAYS.map((days) => (
            <button
              key={days}
              type="button"
              className="block w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200"
              onClick={() => {
                onChange(days)
                shut()
              }}
            >
              {days} days
            </button>
          ))}
          <label className="field-label mt-1" htmlFor="other-days">
            Another number
          </label>
          <input
            id="other-days"
            type="number"
            min={1}
            className="text-field"
            defaultValue={value ?? undefined}
            onKeyDown={(event) => {
              if (event.key === 'Enter') {
                onChange(Math.max(1, Number(event.currentTarget.value) || 1))
                shut()
              }
            }}
          />
        </div>
      )}
    </Popover>
  )
}

function FieldTest({
  test,
  catalogue,
  onChange,
  startsOpen,
}: {
  test: Extract<Test, { kind: 'field' }>
  catalogue: Catalogue
  onChange: (test: Test) => void
  startsOpen: boolean
}) {
  const field = catalogue.fields.find((one) => one.key === test.field)
  if (!field) return null
  const known = options(catalogue, test.field)
  const operators = Object.keys(catalogue.operators[field.type] ?? {})
  const kind = catalogue.operators[field.type]?.[test.is]
  const phrase =
    test.is === 'empty'
      ? `has no ${field.label.toLowerCase()}`
      : test.is === 'one_of' || test.is === 'yes'
        ? field.phrase
        : `${field.phrase.replace(/ (is|in)$/, '')} ${OPERATOR_WORDS[test.is]}`
  const phraseWord =
    operators.length > 1 ? (
      <Popover words={phrase} label={`How to ask about ${field.label}`} className="cursor-pointer hover:text-primary">
        {(shut) =>
          operators.map((is) => (
            <button
              key={is}
              type="button"
              className="block w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200"
              onClick={() => {
                const needs = catalogue.operators[field.type]?.[is]
                onChange({ ...test, is, value: needs === 'list' ? [] : needs === 'days' ? 30 : needs === 'none' ? null : '' })
                shut()
              }}
            >
              {OPERATOR_WORDS[is]}
            </button>
          ))
        }
      </Popover>
    ) : (
      phrase
    )
  return (
    <>
      {phraseWord}{' '}
      {kind === 'list' && (
        <Popover words={listWords(test.value, known)} label={`${field.label}: choose`} open={startsOpen}>
          {() => (
            <Choices
              label={field.label}
              options={known}
              chosen={(test.value as (string | number)[]) ?? []}
              typed={field.type === 'text'}
              onChange={(value) => onChange({ ...test, value })}
            />
          )}
        </Popover>
      )}
      {kind === 'days' && <DaysWord value={test.value as number} onChange={(value) => onChange({ ...test, value })} />}
      {(kind === 'text' || kind === 'date') && (
        <input
          type={kind === 'date' ? 'date' : 'text'}
          aria-label={`${field.label} ${OPERATOR_WORDS[test.is]}`}
          className="border-b border-dashed border-primary text-primary bg-transparent px-1 w-36"
          value={String(test.value ?? '')}
          onChange={(event) => onChange({ ...test, value: event.target.value })}
        />
      )}
    </>
  )
}

function ActivityTest({
  test,
  catalogue,
  onChange,
}: {
  test: Extract<Test, { kind: 'activity' }>
  catalogue: Catalogue
  onChange: (test: Test) => void
}) {
  const activity = catalogue.activities.find((one) => one.key === test.activity)
  if (!activity) return null
  const said = test.negated ? activity.negated : `has ${activity.words}`.replace('has had', 'had')
  const letter = catalogue.letters.find((one) => one.id === test.letterId)
  return (
    <>
      <Popover words={said} label="Did or did not">
        {(shut) =>
          [false, true].map((negated) => (
            <button
              key={String(negated)}
              type="button"
              className="block w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200"
              onClick={() => {
                onChange({ ...test, negated })
                shut()
              }}
            >
              {negated ? activity.negated : `has ${activity.words}`.replace('has had', 'had')}
            </button>
          ))
        }
      </Popover>{' '}
      <Popover words={letter ? `“${letter.name}”` : 'any letter'} label="Which letter">
        {(shut) =>
          [{ id: 0, name: 'any letter' }, ...catalogue.letters].map((one) => (
            <button
              key={one.id}
              type="button"
              className="block w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200"
              onClick={() => {
                onChange({ ...test, letterId: one.id || null })
                shut()
              }}
            >
              {one.name}
            </button>
          ))
        }
      </Popover>{' '}
      in the last <DaysWord value={test.withinDays} onChange={(withinDays) => onChange({ ...test, withinDays })} />
    </>
  )
}

/** "Everyone whose city…" needs no "who". */
function beginsWithWhose(clause: Clause | undefined, catalogue: Catalogue): boolean {
  const test = clause?.butNot ? undefined : clause?.tests[0]
  const field = test?.kind === 'field' && test.is !== 'empty' ? catalogue.fields.find((one) => one.key === test.field) : undefined
  return field?.phrase.startsWith('whose') ?? false
}

/** The condition as a sentence; the underlined words open their choices. */
export function Sentence({
  clauses,
  onChange,
  aloud,
}: {
  clauses: Clause[] | null
  onChange: (clauses: Clause[]) => void
  aloud?: string
}) {
  const { data: catalogue } = useCatalogue()
  if (!catalogue) return <div className="skeleton h-16" />
  if (clauses === null) {
    return (
      <div className="bg-[var(--sheet)] border border-base-300 rounded-sm px-4 py-3 font-serif text-[17px]">
        {aloud}{' '}
        <button type="button" className="quiet-word" onClick={() => onChange([])}>
          begin anew
        </button>
      </div>
    )
  }
  const replace = (c: number, tests: Test[]) =>
    onChange(
      tests.length === 0
        ? clauses.filter((_, i) => i !== c)
        : clauses.map((clause, i) => (i === c ? { ...clause, tests } : clause)),
    )
  const unfinished = (test: Test) => test.kind === 'field' && Array.isArray(test.value) && test.value.length === 0
  return (
    <div
      className="bg-[var(--sheet)] border border-base-300 rounded-sm px-4 py-3 font-serif text-[17px] leading-9"
      role="group"
      aria-label="Condition"
    >
      Everyone{clauses.length > 0 && (beginsWithWhose(clauses[0], catalogue) ? ' ' : ' who ')}
      {clauses.map((clause, c) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the parts of a sentence are known by their place
        <span key={c}>
          {c > 0 && <span className="muted"> {clause.butNot ? 'but not if one ' : 'and '}</span>}
          {c === 0 && clause.butNot && <span className="muted">not </span>}
          {clause.tests.map((test, t) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the parts of a sentence are known by their place
            <span key={`${t}${test.kind}${test.kind === 'field' ? test.field : test.activity}`}>
              {t > 0 && <span className="muted"> or </span>}
              {test.kind === 'field' ? (
                <FieldTest
                  test={test}
                  catalogue={catalogue}
                  startsOpen={unfinished(test)}
                  onChange={(next) =>
                    replace(
                      c,
                      clause.tests.map((one, i) => (i === t ? next : one)),
                    )
                  }
                />
              ) : (
                <ActivityTest
                  test={test}
                  catalogue={catalogue}
                  onChange={(next) =>
                    replace(
                      c,
                      clause.tests.map((one, i) => (i === t ? next : one)),
                    )
                  }
                />
              )}
              <button
                type="button"
                className="quiet-word px-1 text-xs align-middle"
                aria-label={`Take out: ${test.kind === 'field' ? test.field : test.activity}`}
                onClick={() =>
                  replace(
                    c,
                    clause.tests.filter((_, i) => i !== t),
                  )
                }
              >
                ×
              </button>
            </span>
          ))}
        </span>
      ))}{' '}
      <span className="whitespace-nowrap">
        <AskAbout
          catalogue={catalogue}
          words={clauses.length === 0 ? '+ who…' : '+ and'}
          label="And…"
          onPick={(test) => onChange([...clauses, { butNot: false, tests: [test] }])}
        />{' '}
        {clauses.length > 0 && (
          <>
            <AskAbout
              catalogue={catalogue}
              words="+ or"
              label="Or…"
              onPick={(test) => replace(clauses.length - 1, [...(clauses.at(-1)?.tests ?? []), test])}
            />{' '}
          </>
        )}
        <AskAbout
          catalogue={catalogue}
          words="+ but not"
          label="But not…"
          onPick={(test) => onChange([...clauses, { butNot: true, tests: [test] }])}
        />
      </span>
    </div>
  )
}
