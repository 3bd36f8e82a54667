import { useQuery } from '@tanstack/react-query'
import { X } from 'lucide-react'
import { useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { useCatalogue } from '../../app/useCatalogue'
import { useFirst } from '../../app/useFirst'
import { Choices } from '../../parts/Choices'
import { Popover } from '../../parts/Popover'
import { useFilters } from '../people/table/usePeople'
import { OwnSentence } from './OwnSentence'

type Audience = Shape<'Audience'>

/** Finds people by a few letters and adds them one by one. */
function SinglePeople({ ids, label, onChange }: { ids: number[]; label: string; onChange: (ids: number[]) => void }) {
  const [words, setWords] = useState('')
  const { data: chosen } = useQuery({
    queryKey: ['people', 'single', ids],
    queryFn: () => ask(api.POST('/api/people/search', { body: { ids: ids.slice(0, 200), limit: 200 } })),
    enabled: ids.length > 0,
  })
  const { data: found } = useQuery({
    queryKey: ['people', 'find', words],
    queryFn: ({ signal }) => ask(api.POST('/api/people/search', { body: { words, limit: 8 }, signal })),
    enabled: words.trim().length > 1,
  })
  const offered = (words.trim().length > 1 && found?.people.filter((person) => !ids.includes(person.id))) || []
  const first = offered[0]
  const add = (person: { id: number }) => {
    onChange([...ids, person.id])
    setWords('')
  }
  const { takeFirst, forget } = useFirst(first, add)
  return (
    <div>
      <span className="field-label">{label}</span>
      <ul className="flex flex-wrap gap-1 mb-1">
        {chosen?.people
          .filter((person) => ids.includes(person.id))
          .slice(0, 12)
          .map((person) => (
            <li key={person.id} className="chip bg-base-200">
              {person.name}{' '}
              <button
                type="button"
                aria-label={`Take ${person.name} out`}
                onClick={() => onChange(ids.filter((id) => id !== person.id))}
              >
                <X className="mark" aria-hidden />
              </button>
            </li>
          ))}
        {ids.length > 12 && <li className="muted">and {ids.length - 12} more</li>}
      </ul>
      <input
        className="text-field"
        aria-label={label}
        placeholder="Name, company or address"
        value={words}
        onChange={(event) => {
          forget()
          setWords(event.target.value)
        }}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return
          event.preventDefault()
          takeFirst()
        }}
      />
      <ul>
        {offered.map((person) => (
          <li key={person.id}>
            <button
              type="button"
              className={`w-full text-left px-1.5 py-0.5 rounded-sm hover:bg-base-200 ${person === first ? 'bg-base-200' : ''}`}
              onClick={() => add(person)}
            >
              + {person.name} <span className="muted">{person.company}</span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  )
}

function Several<Value extends string | number>({
  label,
  options,
  chosen,
  onChange,
}: {
  label: string
  options: { value: Value; words: string }[]
  chosen: Value[]
  onChange: (values: Value[]) => void
}) {
  const words = chosen.map((id) => options.find((one) => one.value === id)?.words ?? 'one that is gone').join(', ')
  return (
    <div>
      <span className="field-label">{label}</span>
      <Popover
        words={words || 'none'}
        label={`${label}: choose`}
        className="btn btn-sm btn-plain w-full justify-start truncate font-normal"
      >
        {() => <Choices label={label} options={options} chosen={chosen} onChange={(values) => onChange(values as Value[])} />}
      </Popover>
    </div>
  )
}

/** Whom a sequence is for: any mix of filters, lists, members of an earlier sequence and single people, minus exclusions. */
export function AudienceEditor({
  audience,
  sentenceFirst,
  onChange,
}: {
  audience: Audience
  /** Whether one begins with a sentence, though nothing is said yet. */
  sentenceFirst?: boolean
  onChange: (audience: Audience) => void
}) {
  const { data: catalogue } = useCatalogue()
  const { data: filters = [] } = useFilters()
  if (!catalogue) return null
  const shared = filters.filter((one) => one.shared)
  const named = (all: { id: number; name: string }[]) => all.map((one) => ({ value: one.id, words: one.name }))
  const filterIds = [...(audience.filter_id ? [audience.filter_id] : []), ...(audience.filters ?? [])]
  const members = audience.members?.[0]
  const member = (change: Partial<Shape<'Condition'>>) => {
    const next = { membership: 'was_in', status: [], ...members, ...change }
    onChange({ ...audience, members: next.sequence_id ? [next] : [] })
  }
  return (
    <div className="grid grid-cols-2 gap-x-6 gap-y-3">
      <OwnSentence
        condition={audience.condition}
        open={sentenceFirst}
        onChange={(condition) => onChange({ ...audience, condition })}
        onFilter={(id) => onChange({ ...audience, condition: undefined, filter_id: undefined, filters: [...filterIds, id] })}
      />
      <div className="grid gap-3 content-start">
        <h3 className="font-serif text-base">Who</h3>
        <Several
          label="Filters, always current"
          options={named(shared)}
          chosen={filterIds}
          onChange={(ids) => onChange({ ...audience, filter_id: undefined, filters: ids })}
        />
        {shared.length < filters.length && (
          <p className="muted text-xs">Filters that only you see are not offered: everybody sees whom a sequence is for.</p>
        )}
        <Several
          label="Lists"
          options={named(catalogue.lists)}
          chosen={audience.lists ?? []}
          onChange={(lists) => onChange({ ...audience, lists })}
        />
        <Several
          label="Tags"
          options={catalogue.tags.map((tag) => ({ value: tag, words: tag }))}
          chosen={audience.tags ?? []}
          onChange={(tags) => onChange({ ...audience, tags })}
        />
        <div>
          <span className="field-label">Members of an earlier sequence</span>
          <select
            className="select select-sm w-full bg-[var(--sheet)]"
            aria-label="Members of an earlier sequence"
            value={members?.sequence_id ?? ''}
            onChange={(event) => member({ sequence_id: Number(event.target.value) || null })}
          >
            <option value="">none</option>
            {catalogue.sequences.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </select>
          {members?.sequence_id && (
            <Popover
              words={
                (members.status ?? [])
                  .map((key) => catalogue.statuses.find((one) => one.key === key)?.words ?? key)
                  .join(' or ') || 'with any status'
              }
              label="With which status"
            >
              {() => (
                <Choices
                  label="status"
                  options={catalogue.statuses.map((one) => ({ value: one.key, words: one.words }))}
                  chosen={members.status ?? []}
                  onChange={(status) => member({ status: status.map(String) })}
                />
              )}
            </Popover>
          )}
        </div>
        <SinglePeople
          ids={audience.people ?? []}
          label="Single people"
          onChange={(people) => onChange({ ...audience, people })}
        />
      </div>
      <div className="grid gap-3 content-start">
        <h3 className="font-serif text-base">Without</h3>
        <Several
          label="Filters"
          options={named(shared)}
          chosen={audience.without_filters ?? []}
          onChange={(without_filters) => onChange({ ...audience, without_filters })}
        />
        <Several
          label="Lists"
          options={named(catalogue.lists)}
          chosen={audience.without_lists ?? []}
          onChange={(without_lists) => onChange({ ...audience, without_lists })}
        />
        <Several
          label="Tags"
          options={catalogue.tags.map((tag) => ({ value: tag, words: tag }))}
          chosen={audience.without_tags ?? []}
          onChange={(without_tags) => onChange({ ...audience, without_tags })}
        />
        <SinglePeople
          ids={audience.without ?? []}
          label="Single people left out"
          onChange={(without) => onChange({ ...audience, without })}
        />
      </div>
    </div>
  )
}
