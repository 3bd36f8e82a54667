import { X } from 'lucide-react'
import type { Shape } from '../../../api/client'
import { AskAbout } from './AskAbout'
import { isException, whoBefore } from './asking'
import { complete, EVERYBODY, type Group, type Part, type Test } from './conditions'
import { FieldTest } from './FieldTest'
import { ActivityTest, DealsTest, MembershipTest } from './HappeningTests'

type Catalogue = Shape<'Catalogue'>
type Subject = 'person' | 'deal'

const newPart = (test: Test, negated = false): Part => ({ ...test, negated })

function label(part: Part, catalogue: Catalogue): string {
  switch (part.kind) {
    case 'group':
      return 'the words in brackets'
    case 'field':
      return catalogue.fields.find((one) => one.key === part.field)?.label ?? part.field
    case 'activity':
      return part.activity
    case 'membership':
      return 'the sequence'
    case 'deals':
      return 'deals'
  }
}

function PartWords({
  said,
  part,
  catalogue,
  subject,
  onChange,
}: {
  said: boolean
  part: Part
  catalogue: Catalogue
  subject: Subject
  onChange: (part: Part) => void
}) {
  switch (part.kind) {
    case 'group':
      return (
        <>
          <button
            type="button"
            className="muted hover:text-primary cursor-pointer"
            title={part.negated ? 'Take the not away' : 'Turn into the opposite'}
            aria-label={part.negated ? 'No longer not: the words in brackets' : 'Not: the words in brackets'}
            onClick={() => onChange({ ...part, negated: !part.negated })}
          >
            {part.negated ? 'not (' : '('}
          </button>
          <SentenceGroup group={part} catalogue={catalogue} subject={subject} inner onChange={onChange} />
          <span className="muted">)</span>
        </>
      )
    case 'field':
      return (
        <FieldTest
          test={part}
          catalogue={catalogue}
          negated={part.negated}
          saidBefore={said}
          startsOpen={!complete(part) && Array.isArray(part.value) && part.value.length === 0}
          onChange={(test) => onChange({ ...test, negated: part.negated })}
          onNegate={() => onChange({ ...part, negated: !part.negated })}
        />
      )
    case 'activity':
      return <ActivityTest test={part} catalogue={catalogue} onChange={onChange} />
    case 'membership':
      return <MembershipTest test={part} catalogue={catalogue} onChange={onChange} />
    case 'deals':
      return (
        <DealsTest
          test={part}
          onChange={onChange}
          where={(inside, change) => (
            <SentenceGroup group={inside} catalogue={catalogue} subject="deal" inner onChange={change} />
          )}
        />
      )
  }
}

/** Parts joined by a word; the word turns from "and" to "or" with a click, and each part can be put in brackets. */
export function SentenceGroup({
  group,
  catalogue,
  subject,
  inner = false,
  onChange,
}: {
  group: Group
  catalogue: Catalogue
  subject: Subject
  inner?: boolean
  onChange: (group: Group) => void
}) {
  const parts = (next: Part[]) => onChange({ ...group, parts: next })
  const replace = (i: number, part: Part) => parts(group.parts.map((one, at) => (at === i ? part : one)))
  const add = (tests: Test[], join: Group['join'], negated = false) => {
    const [first, ...more] = tests
    if (!first) return
    // What was typed together is said together.
    const part: Part =
      more.length > 0 && (join === 'or' || negated)
        ? { ...EVERYBODY, negated, parts: tests.map((test) => newPart(test)) }
        : newPart(first, negated)
    const added = part.kind === 'group' ? [part] : [part, ...more.map((test) => newPart(test, negated))]
    if (group.parts.length < 2 || group.join === join) return onChange({ ...group, join, parts: [...group.parts, ...added] })
    // "a and b, or c" puts the new part beside the last one, as it is said.
    const last = group.parts.at(-1)
    if (last) parts([...group.parts.slice(0, -1), { ...EVERYBODY, join, parts: [last, ...added] }])
  }
  return (
    <>
      {group.parts.map((part, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the parts of a sentence are known by their place
        <span key={`${i}${part.kind}${part.kind === 'field' ? part.field : ''}`}>
          {i > 0 && isException(group, i) && (
            <span className="muted">{isException(group, i - 1) ? ' or anyone ' : ' except anyone '}</span>
          )}
          {i > 0 && !isException(group, i) && (
            <>
              {' '}
              <button
                type="button"
                className="muted hover:text-primary cursor-pointer"
                title="Turn into the other word"
                aria-label={`${group.join}; turn into ${group.join === 'and' ? 'or' : 'and'}`}
                onClick={() => onChange({ ...group, join: group.join === 'and' ? 'or' : 'and' })}
              >
                {group.join}
              </button>{' '}
            </>
          )}
          {subject === 'person' && whoBefore(catalogue, group, i)}
          <PartWords
            said={isException(group, i)}
            part={part}
            catalogue={catalogue}
            subject={subject}
            onChange={(next) => replace(i, next)}
          />
          <span className="whitespace-nowrap align-middle">
            <button
              type="button"
              className="quiet-word px-1 leading-6"
              aria-label={`Take out: ${label(part, catalogue)}`}
              title="Take out"
              onClick={() => parts(group.parts.filter((_, at) => at !== i))}
            >
              <X className="mark" aria-hidden />
            </button>
          </span>
        </span>
      ))}{' '}
      <span className="whitespace-nowrap">
        <AskAbout
          subject={subject}
          words={group.parts.length === 0 ? (inner ? '+ with…' : '+ who…') : '+ and'}
          label="And…"
          onPick={(tests) => add(tests, 'and')}
        />{' '}
        {group.parts.length > 0 && (
          <>
            <AskAbout subject={subject} words="+ or" label="Or…" onPick={(tests) => add(tests, 'or')} />{' '}
          </>
        )}
        {!inner && <AskAbout subject={subject} words="+ but not" label="But not…" onPick={(tests) => add(tests, 'and', true)} />}
      </span>
    </>
  )
}
