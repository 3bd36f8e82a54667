import type { Shape } from '../../../api/client'
import { MARKS } from '../../../app/marks'
import { DateInput } from '../../../parts/DateInput'
import { Select } from '../../../parts/Select'

/** What an act needs to be told. */
export function ActFields({
  act,
  catalogue,
  onChange,
}: {
  act: Shape<'Act'>
  catalogue: Shape<'Catalogue'>
  onChange: (act: Shape<'Act'>) => void
}) {
  const choices = (key: string) => catalogue.fields.find((field) => field.key === key)?.choices ?? []
  const named = (all: { id: number; name: string }[]) => all.map((one) => ({ value: one.id, words: one.name }))
  switch (act.kind) {
    case 'tag':
    case 'untag':
      return (
        <label>
          <span className="field-label">Tags, with commas between</span>
          <input
            className="text-field"
            list="known-tags"
            value={act.names?.join(', ') ?? ''}
            onChange={(event) => onChange({ ...act, names: event.target.value.split(/,\s*/) })}
          />
          <datalist id="known-tags">
            {catalogue.tags.map((tag) => (
              <option key={tag} value={tag} />
            ))}
          </datalist>
        </label>
      )
    case 'list':
    case 'unlist':
      return (
        <Select
          label="List"
          value={act.list_id ?? ''}
          options={named(catalogue.lists)}
          onChange={(id) => onChange({ ...act, list_id: Number(id) })}
        />
      )
    case 'owner':
      return (
        <Select
          label="Owner"
          value={act.owner_id === null ? 'nobody' : (act.owner_id ?? '')}
          options={[...named(catalogue.colleagues), { value: 'nobody', words: 'nobody' }]}
          onChange={(id) => onChange({ ...act, owner_id: id === 'nobody' ? null : Number(id) })}
        />
      )
    case 'standing':
      return (
        <Select
          label="Standing"
          value={act.standing ?? ''}
          options={choices('person.standing')}
          onChange={(standing) => onChange({ ...act, standing })}
        />
      )
    case 'consent':
      return (
        <>
          <Select
            label="Consent"
            value={act.consent ?? ''}
            options={choices('person.consent')}
            onChange={(consent) => onChange({ ...act, consent })}
          />
          {act.consent && act.consent !== 'no' && (
            <p className="muted">People who said no keep it; that ends on each record, by saying how you know.</p>
          )}
          <label>
            <span className="field-label">How it was obtained</span>
            <input
              className="text-field"
              value={act.how ?? ''}
              onChange={(event) => onChange({ ...act, how: event.target.value })}
            />
          </label>
        </>
      )
    case 'field':
      return <FieldFields act={act} catalogue={catalogue} onChange={onChange} />
    case 'bin':
      return (
        <p>They leave every sequence they are in. The bin is emptied after 30 days; until then they can be taken out again.</p>
      )
    case 'do_not_mail':
      return <p>Nothing more is sent to them, whatever a sequence plans.</p>
    default:
      return null
  }
}

const NOT_HERE = ['person.email', 'person.owner', 'person.standing', 'person.consent', 'person.tags', 'person.lists', ...MARKS]

function FieldFields({
  act,
  catalogue,
  onChange,
}: {
  act: Shape<'Act'>
  catalogue: Shape<'Catalogue'>
  onChange: (act: Shape<'Act'>) => void
}) {
  const fields = catalogue.fields.filter(
    (field) => field.subject === 'person' && field.uses.includes('import') && !field.retired && !NOT_HERE.includes(field.key),
  )
  const field = fields.find((one) => one.key === act.field)
  const value = act.value === null || act.value === undefined ? '' : String(act.value)
  return (
    <>
      <Select
        label="Field"
        value={act.field ?? ''}
        options={fields.map((one) => ({ value: one.key, words: one.label }))}
        onChange={(key) => onChange({ ...act, field: key, value: '' })}
      />
      {field && field.choices.length > 0 && (
        <Select label="Value" value={value} options={field.choices} onChange={(picked) => onChange({ ...act, value: picked })} />
      )}
      {field && field.choices.length === 0 && (
        <div>
          <span className="field-label">Value; nothing empties it</span>
          {field.type === 'date' ? (
            <DateInput
              label="Value; nothing empties it"
              className="text-field"
              value={value || null}
              onSave={(day) => onChange({ ...act, value: day ?? '' })}
            />
          ) : (
            <input
              className="text-field"
              type="text"
              aria-label="Value; nothing empties it"
              value={value}
              onChange={(event) => onChange({ ...act, value: event.target.value })}
            />
          )}
        </div>
      )}
    </>
  )
}
