import type { Shape } from '../../../api/client'
import { Choices } from '../../../parts/Choices'
import { DateInput } from '../../../parts/DateInput'
import { MenuList } from '../../../parts/MenuList'
import { Popover } from '../../../parts/Popover'
import { type Field, freshValue, listWords, OPERATOR_WORDS, options } from './asking'
import type { Test, Within } from './conditions'
import { SpanWord } from './SpanWord'

type Catalogue = Shape<'Catalogue'>
type FieldTestState = Extract<Test, { kind: 'field' }>
const OPPOSITE = 'opposite'
const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
].map((words, i) => ({ value: i + 1, words }))

/** A test on a field: its phrase opens the ways to ask, its value the choices. */
export function FieldTest({
  test,
  catalogue,
  negated,
  saidBefore,
  onChange,
  onNegate,
  startsOpen,
}: {
  test: FieldTestState
  catalogue: Catalogue
  negated: boolean
  /** That it is an exception stands in front already. */
  saidBefore: boolean
  onChange: (test: FieldTestState) => void
  onNegate: () => void
  startsOpen: boolean
}) {
  const field = catalogue.fields.find((one) => one.key === test.field)
  if (!field) return <span className="gap-mark">a field that is gone</span>
  const operators = catalogue.operators[field.type] ?? {}
  const ways = Object.keys(operators)
  const phrase = field.phrases[test.is]?.[negated && !saidBefore ? 'denied' : 'words'] ?? field.label
  return (
    <>
      <Popover words={phrase} label={`How to ask about ${field.label}`} className="cursor-pointer hover:text-primary">
        {(shut) => (
          <MenuList
            items={[
              ...(ways.length > 1 ? ways.map((is) => ({ value: is, words: OPERATOR_WORDS[is] ?? is })) : []),
              { value: OPPOSITE, words: negated ? 'take the “not” away' : 'not: turn into the opposite' },
            ]}
            onPick={(is) => {
              if (is === OPPOSITE) onNegate()
              else onChange({ ...test, is, value: operators[is] === operators[test.is] ? test.value : freshValue(operators[is]) })
              shut()
            }}
          />
        )}
      </Popover>{' '}
      {field.retired && <span className="muted text-sm">(retired) </span>}
      <Value
        needs={operators[test.is]}
        field={field}
        test={test}
        catalogue={catalogue}
        startsOpen={startsOpen}
        onChange={(value) => onChange({ ...test, value })}
      />
    </>
  )
}

function Value({
  needs,
  field,
  test,
  catalogue,
  startsOpen,
  onChange,
}: {
  needs: string | undefined
  field: Field
  test: FieldTestState
  catalogue: Catalogue
  startsOpen: boolean
  onChange: (value: unknown) => void
}) {
  switch (needs) {
    case 'list':
    case 'months': {
      const known = needs === 'months' ? MONTHS : options(catalogue, field)
      return (
        <Popover
          words={listWords(test.value, known, test.is === 'all_of' ? 'and' : 'or')}
          label={`${field.label}: choose`}
          open={startsOpen}
        >
          {() => (
            <Choices
              label={field.label}
              options={known}
              chosen={(test.value as (string | number)[]) ?? []}
              typed={field.type === 'text'}
              onChange={onChange}
            />
          )}
        </Popover>
      )
    }
    case 'span':
      return <SpanWord value={test.value as Within} onChange={onChange} />
    case 'days':
      return (
        <>
          <Typed field={field} type="number" value={test.value} onChange={onChange} label={`${field.label}: how many days`} />{' '}
          days
        </>
      )
    case 'numbers':
    case 'dates': {
      const [low, high] = (test.value as unknown[]) ?? ['', '']
      const type = needs === 'dates' ? 'date' : 'number'
      return (
        <>
          <Typed
            field={field}
            type={type}
            value={low}
            onChange={(value) => onChange([value, high])}
            label={`${field.label} from`}
          />{' '}
          and{' '}
          <Typed
            field={field}
            type={type}
            value={high}
            onChange={(value) => onChange([low, value])}
            label={`${field.label} to`}
          />
        </>
      )
    }
    case 'number':
    case 'date':
    case 'text':
      return (
        <Typed
          field={field}
          type={needs}
          value={test.value}
          onChange={onChange}
          label={`${field.label} ${OPERATOR_WORDS[test.is]}`}
        />
      )
    default:
      return null
  }
}

/** Amounts of money are typed in pounds and asked in pence. */
function Typed({
  field,
  type,
  value,
  label,
  onChange,
}: {
  field: Field
  type: 'number' | 'date' | 'text'
  value: unknown
  label: string
  onChange: (value: unknown) => void
}) {
  if (type === 'date')
    return (
      <DateInput
        label={label}
        className="border-b border-dashed border-primary text-primary bg-transparent px-1 w-36"
        value={String(value ?? '') || null}
        onSave={(day) => onChange(day ?? '')}
      />
    )
  const scale = field.type === 'money' && type === 'number' ? 100 : 1
  const shown = type === 'number' && typeof value === 'number' ? String(value / scale) : String(value ?? '')
  return (
    <>
      {scale > 1 && '£'}
      <input
        type={type}
        aria-label={label}
        className={`border-b border-dashed border-primary text-primary bg-transparent px-1 ${type === 'number' ? 'w-20' : 'w-36'}`}
        value={shown}
        onChange={(event) => {
          const typed = event.target.value
          onChange(type === 'number' ? (typed === '' ? '' : Math.round(Number(typed) * scale * 10_000) / 10_000) : typed)
        }}
      />
    </>
  )
}
