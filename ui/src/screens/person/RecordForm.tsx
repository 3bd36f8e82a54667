import type { Shape } from '../../api/client'
import { classes } from '../../parts/classes'
import { FieldInput } from '../../parts/FieldInput'
import { ErrorNote } from '../../parts/States'
import { useTyped } from '../../parts/useTyped'
import { Addresses } from './Addresses'
import { SetInput } from './SetInput'
import { useSavePerson } from './useRecord'

type Person = Shape<'Person'>
const SECTIONS = [
  { words: 'Name', keys: ['person.title', 'person.first_name', 'person.last_name', 'person.known_as', 'person.name_order'] },
  { words: 'Standing', keys: ['person.job_title', 'person.owner', 'person.standing'] },
  {
    words: 'Reach',
    keys: [
      'person.phone',
      'person.mobile',
      'person.city',
      'person.region',
      'person.country',
      'person.time_zone',
      'person.language',
    ],
  },
  { words: 'Dates', keys: ['person.birthday', 'person.fitted_on'] },
  { words: 'Consent', keys: ['person.consent', 'person.consent_how', 'person.do_not_mail', 'person.address_failed'] },
]

/** What is not edited away: a no ends by its own act (NoLetters). */
const SAYS_NO: Record<string, unknown> = { 'person.consent': 'no', 'person.do_not_mail': true, 'person.address_failed': true }
const saysNo = (person: Person, key: string) => key in SAYS_NO && person.values[key] === SAYS_NO[key]

/** The record; each field is saved as one leaves it. */
export function RecordForm({ person, catalogue }: { person: Person; catalogue: Shape<'Catalogue'> }) {
  const { save, address, dropAddress, overtaken, reload } = useSavePerson(person)
  const field = (key: string) => catalogue.fields.find((one) => one.key === key)
  const own = catalogue.fields.filter(
    (one) => one.custom_id && one.subject === 'person' && (!one.retired || person.values[one.key]),
  )
  const row = (key: string) => {
    const found = field(key)
    if (!found) return null
    return (
      <div key={key} className="contents">
        <span className="muted text-xs py-1.5">{found.label}</span>
        {saysNo(person, key) ? (
          <span className="px-1.5">{key === 'person.consent' ? 'no' : 'yes'}</span>
        ) : (
          <FieldInput
            field={found}
            value={person.values[key]}
            colleagues={catalogue.colleagues}
            onSave={(value) => save.mutate({ [key]: value })}
          />
        )}
      </div>
    )
  }
  const error = save.error ?? address.error ?? dropAddress.error
  return (
    <div>
      {error && <ErrorNote error={error} retry={overtaken ? reload : undefined} />}
      {SECTIONS.map((section) => (
        <fieldset
          key={section.words}
          className="grid grid-cols-[92px_minmax(0,1fr)] items-center border-b border-base-300/60 py-1"
        >
          <legend className="sr-only">{section.words}</legend>
          {section.words === 'Standing' && (
            <CompanyInput person={person} catalogue={catalogue} onSave={(name) => save.mutate({ 'person.company': name })} />
          )}
          {section.words === 'Reach' && (
            <Addresses
              person={person}
              onUse={(email) => address.mutate({ email, as: 'in_use' })}
              onAdd={(email) => address.mutate({ email, as: 'further' })}
              onClear={() => save.mutate({ 'person.email': null })}
              onDrop={(id) => dropAddress.mutate(id)}
            />
          )}
          {section.keys.map(row)}
          {section.words === 'Standing' && <Since words="since" on={person.values['person.standing_since']} />}
          {section.words === 'Consent' && (
            <Since
              words={person.consent_by ? `noted by ${person.consent_by},` : 'noted'}
              on={person.values['person.consent_on']}
            />
          )}
          {section.words === 'Consent' && section.keys.some((key) => saysNo(person, key)) && (
            <p className="col-start-2 muted text-xs px-1.5 pb-1">A no ends only with “They want letters again…”.</p>
          )}
        </fieldset>
      ))}
      {own.length > 0 && (
        <fieldset className="grid grid-cols-[92px_minmax(0,1fr)] items-center border-b border-base-300/60 py-1">
          <legend className="sr-only">Our own fields</legend>
          {own.map((one) => row(one.key))}
        </fieldset>
      )}
      <div className="grid grid-cols-[92px_minmax(0,1fr)] items-center py-1">
        <span className="muted text-xs py-1.5">Tags</span>
        <SetInput
          label="Tags"
          options={catalogue.tags.map((tag) => ({ value: tag, words: tag }))}
          chosen={person.tags}
          typed
          onChange={(tags) => save.mutate({ 'person.tags': tags })}
        />
        <span className="muted text-xs py-1.5">Lists</span>
        <SetInput
          label="Lists"
          options={catalogue.lists.map((list) => ({ value: list.id, words: list.name }))}
          chosen={person.lists.map((list) => list.id)}
          onChange={(lists) => save.mutate({ 'person.lists': lists })}
        />
      </div>
    </div>
  )
}

function Since({ words, on }: { words: string; on: unknown }) {
  if (typeof on !== 'string') return null
  const date = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' }).format(
    new Date(on),
  )
  return (
    <p className="col-start-2 muted text-xs px-1.5 pb-1">
      {words} {date}
    </p>
  )
}

function CompanyInput({
  person,
  catalogue,
  onSave,
}: {
  person: Person
  catalogue: Shape<'Catalogue'>
  onSave: (name: string | null) => void
}) {
  const { text: name, type, leave } = useTyped(person.company ?? '')
  const label = catalogue.fields.find((one) => one.key === 'company.name')?.label ?? 'Company'
  return (
    <label className="contents">
      <span className="muted text-xs">{label}</span>
      <input
        className={classes(
          'h-7 px-1.5 rounded-sm bg-transparent border border-transparent hover:border-base-300 focus:border-primary',
          'focus:bg-[var(--sheet)]',
        )}
        placeholder="none"
        value={name}
        onChange={(event) => type(event.target.value)}
        onBlur={() => {
          leave()
          if (name.trim() !== (person.company ?? '')) onSave(name.trim() || null)
        }}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
    </label>
  )
}
