import type { Shape } from '../api/client'
import { Choices } from './Choices'
import { DateInput } from './DateInput'
import { Popover } from './Popover'
import { useTyped } from './useTyped'

type Field = Shape<'Field'>
const QUIET =
  'w-full px-1.5 rounded-sm bg-transparent border border-transparent hover:border-base-300 focus:border-primary focus:bg-[var(--sheet)]'

/** A field of a record that is saved as one leaves it; what it looks like depends on its type alone. */
export function FieldInput({
  field,
  value,
  colleagues,
  placeholder = 'nothing yet',
  onSave,
}: {
  field: Field
  value: unknown
  colleagues: Shape<'Named'>[]
  placeholder?: string
  onSave: (value: unknown) => void
}) {
  switch (field.type) {
    case 'choice':
      return (
        <Select
          label={field.label}
          value={(value as string | null) ?? ''}
          options={field.choices}
          onPick={(picked) => onSave(picked || null)}
        />
      )
    case 'reference':
      return (
        <Select
          label={field.label}
          value={value ? String(value) : ''}
          options={colleagues.map((one) => ({ value: String(one.id), words: one.name }))}
          empty="nobody"
          onPick={(picked) => onSave(picked ? Number(picked) : null)}
        />
      )
    case 'flag':
      return (
        <input
          type="checkbox"
          className="checkbox checkbox-xs ml-1.5"
          aria-label={field.label}
          checked={value === true}
          onChange={(event) => onSave(event.target.checked)}
        />
      )
    case 'choices': {
      const held = (value as string[] | null) ?? []
      const words = field.choices.filter((one) => held.includes(one.value)).map((one) => one.words)
      return (
        <Popover
          words={words.join(', ') || placeholder}
          label={field.label}
          className={`${QUIET} text-left ${words.length > 0 ? '' : 'muted'}`}
        >
          {() => <Choices label={field.label} options={field.choices} chosen={held} onChange={onSave} />}
        </Popover>
      )
    }
    case 'date':
      return (
        <DateInput
          label={field.label}
          value={(value as string | null) ?? null}
          placeholder={placeholder}
          className={`${QUIET} h-7`}
          onSave={onSave}
        />
      )
    default:
      return <Typed field={field} value={value} placeholder={placeholder} onSave={onSave} />
  }
}

function Select({
  label,
  value,
  options,
  empty = 'not known',
  onPick,
}: {
  label: string
  value: string
  options: { value: string; words: string }[]
  empty?: string
  onPick: (value: string) => void
}) {
  return (
    <select
      className="select select-xs bg-transparent border-transparent hover:border-base-300 shadow-none text-sm w-full px-1.5"
      aria-label={label}
      value={value}
      onChange={(event) => onPick(event.target.value)}
    >
      {(value === '' || !['Standing', 'Consent', 'Name order'].includes(label)) && <option value="">{empty}</option>}
      {options.map((one) => (
        <option key={one.value} value={one.value}>
          {one.words}
        </option>
      ))}
    </select>
  )
}

/** Money is kept in pence and typed in pounds. */
function Typed({
  field,
  value,
  placeholder,
  onSave,
}: {
  field: Field
  value: unknown
  placeholder: string
  onSave: (value: unknown) => void
}) {
  const shown = field.type === 'money' && typeof value === 'number' ? String(value / 100) : String(value ?? '')
  const { text, type, leave, putBack } = useTyped(shown)
  const save = () => {
    leave()
    if (text.trim() !== shown) onSave(text.trim() || null)
  }
  if (field.type === 'long_text')
    return (
      <textarea
        className={`${QUIET} py-1`}
        rows={Math.min(8, Math.max(2, text.split('\n').length))}
        aria-label={field.label}
        placeholder={placeholder}
        value={text}
        onChange={(event) => type(event.target.value)}
        onBlur={save}
      />
    )
  return (
    <input
      className={`${QUIET} h-7`}
      type="text"
      inputMode={field.type === 'number' || field.type === 'money' ? 'decimal' : undefined}
      aria-label={field.label}
      placeholder={placeholder}
      value={text}
      onChange={(event) => type(event.target.value)}
      onBlur={save}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur()
        if (event.key === 'Escape') putBack()
      }}
    />
  )
}
