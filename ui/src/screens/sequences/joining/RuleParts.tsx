import { useQuery } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../../api/client'
import { MARKS } from '../../../app/marks'
import { Select } from '../../../parts/Select'
import { useTyped } from '../../../parts/useTyped'
import { NewList } from '../steps/NewList'
import type { Settings } from './rules'

type Catalogue = Shape<'Catalogue'>
type Parts = { settings: Settings; catalogue: Catalogue; onChange: (settings: Settings) => void }
const ANYTHING = 'anything'
const NOTHING = 'nothing'

/** Which tag; one that is not there yet is made by its name. */
export function TagRule({ settings, onChange }: Omit<Parts, 'catalogue'>) {
  const { data: tags } = useQuery({ queryKey: ['tags'], queryFn: async () => (await ask(api.GET('/api/tags'))).tags })
  const named = tags?.find((tag) => tag.id === settings.tag_id)?.name ?? settings.tag ?? ''
  const { text, type, leave } = useTyped(named)
  const say = (words: string) => {
    type(words)
    const name = words.trim()
    const known = tags?.find((tag) => tag.name.toLowerCase() === name.toLowerCase())
    onChange(known ? { tag_id: known.id } : name ? { tag: name } : {})
  }
  return (
    <label>
      <span className="field-label">Which tag; a new one is made</span>
      <input
        className="text-field"
        list="tags-to-join-by"
        maxLength={80}
        value={text}
        onChange={(event) => say(event.target.value)}
        onBlur={leave}
      />
      <datalist id="tags-to-join-by">
        {tags?.map((tag) => (
          <option key={tag.id} value={tag.name} />
        ))}
      </datalist>
    </label>
  )
}

export function ListRule({ settings, catalogue, onChange }: Parts) {
  return (
    <>
      <Select
        label="Which list"
        value={settings.list_id ?? ''}
        options={catalogue.lists.map((list) => ({ value: list.id, words: list.name }))}
        onChange={(id) => onChange({ list_id: Number(id) })}
      />
      <NewList onMade={(list_id) => onChange({ list_id })} />
    </>
  )
}

/** In which field, and from what to what where that matters. */
export function FieldRule({ settings, catalogue, onChange }: Parts) {
  const fields = catalogue.fields.filter(
    (one) => one.subject === 'person' && one.uses.includes('import') && !one.retired && !MARKS.includes(one.key),
  )
  const field = fields.find((one) => one.key === settings.field)
  return (
    <>
      <Select
        label="Which field"
        value={settings.field ?? ''}
        options={fields.map((one) => ({ value: one.key, words: one.label }))}
        onChange={(key) => onChange({ field: key })}
      />
      {field && field.choices.length > 0 && (
        <div className="grid grid-cols-2 gap-3">
          {(['from', 'to'] as const).map((side) => (
            <Select
              key={side}
              label={side === 'from' ? 'From' : 'To'}
              value={!(side in settings) ? ANYTHING : settings[side] === null ? NOTHING : String(settings[side])}
              options={[{ value: ANYTHING, words: 'anything' }, { value: NOTHING, words: 'nothing' }, ...field.choices]}
              onChange={(value) => {
                const { [side]: _before, ...rest } = settings
                onChange(value === ANYTHING ? rest : { ...rest, [side]: value === NOTHING ? null : value })
              }}
            />
          ))}
        </div>
      )}
    </>
  )
}

/** Around which date, so many days before or after it. */
export function YearlyRule({ settings, catalogue, onChange }: Parts) {
  const dates = catalogue.fields.filter((one) => one.subject === 'person' && one.type === 'date' && !one.retired)
  const days = settings.days ?? 0
  const { text, type, leave } = useTyped(String(Math.abs(days)))
  return (
    <div className="grid grid-cols-[6rem_8rem_1fr] gap-3 items-end">
      <label>
        <span className="field-label">Days</span>
        <input
          type="number"
          min={0}
          max={366}
          className="text-field"
          value={text}
          onBlur={leave}
          onChange={(event) => {
            type(event.target.value)
            const typed = Math.trunc(Number(event.target.value))
            if (event.target.value !== '' && typed >= 0 && typed <= 366)
              onChange({ ...settings, days: days > 0 ? typed : typed === 0 ? 0 : -typed })
          }}
        />
      </label>
      <Select
        label="Before or after"
        value={days > 0 ? 'after' : 'before'}
        options={[
          { value: 'before', words: 'before' },
          { value: 'after', words: 'after' },
        ]}
        onChange={(side) => onChange({ ...settings, days: (side === 'after' ? 1 : -1) * Math.abs(days) || 0 })}
      />
      <Select
        label="Which date of theirs"
        value={settings.field ?? ''}
        options={dates.map((one) => ({ value: one.key, words: one.label }))}
        onChange={(field) => onChange({ ...settings, field })}
      />
    </div>
  )
}
