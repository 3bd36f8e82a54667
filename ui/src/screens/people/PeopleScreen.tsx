import { useCallback, useDeferredValue, useEffect, useMemo, useState } from 'react'
import { useSearchParams } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { number, plural } from '../../app/format'
import { useKeys } from '../../app/keys'
import { useCreate } from '../../app/useCreate'
import { Header } from '../../parts/Header'
import { PeopleBehind } from '../../parts/PeopleList'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { AddPerson } from './AddPerson'
import { type Clause, fromCondition, toCondition } from './conditions'
import { PeopleTable } from './PeopleTable'
import { SaveFilter } from './SaveFilter'
import { Sentence } from './Sentence'
import { SievePanel } from './SievePanel'
import { useFilters, usePeople, useSieve } from './usePeople'

const KEPT = 'nimble.sentence'

/** The sentence outlives a look at somebody's record, and a reload. */
function useKeptClauses(): [Clause[] | null, (clauses: Clause[] | null) => void] {
  const [clauses, setClauses] = useState<Clause[] | null>(() => {
    try {
      return JSON.parse(sessionStorage.getItem(KEPT) ?? '[]') as Clause[]
    } catch {
      return []
    }
  })
  useEffect(() => {
    if (clauses) sessionStorage.setItem(KEPT, JSON.stringify(clauses))
  }, [clauses])
  return [clauses, setClauses]
}

/** The firm's shared records: who they are, picked with a sentence, with the sieve beside them. */
export function PeopleScreen() {
  const [params, setParams] = useSearchParams()
  const [clauses, setClauses] = useKeptClauses()
  const [filter, setFilter] = useState<Shape<'Filter'> | null>(null)
  const [words, setWords] = useState('')
  const [chosen, setChosen] = useState<Set<number>>(new Set())
  const [open, setOpen] = useState<{ part: string; words: string } | null>(null)
  const [saving, setSaving] = useState(false)
  const create = useCreate()
  const filters = useFilters()
  const condition = useMemo(() => (clauses ? toCondition(clauses) : (filter?.condition ?? {})), [clauses, filter])
  const searched = useDeferredValue(words)
  const people = usePeople(condition, searched)
  const sieve = useSieve({ condition })
  const adding = params.has('add')
  useKeys([{ key: 'n', words: 'Add person', run: () => setParams({ add: '1' }) }])
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = people
  const onEnd = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) fetchNextPage()
  }, [hasNextPage, isFetchingNextPage, fetchNextPage])
  const rows = people.data?.pages.flatMap((page) => page.people) ?? []
  const total = people.data?.pages[0]?.total ?? 0
  const asked = (condition.all?.length ?? 1) > 0
  const use = (one: Shape<'Filter'> | null) => {
    setFilter(one)
    setClauses(one ? fromCondition(one.condition) : [])
    setChosen(new Set())
  }
  const audience = chosen.size > 0 ? { people: [...chosen] } : filter ? { filter_id: filter.id } : { condition }
  return (
    <>
      <Header
        title="People"
        aside={<span className="muted">{sieve.data && !asked ? plural(sieve.data.matching, 'record') : filter?.name}</span>}
        actions={
          <>
            <input
              className="text-field !w-52"
              type="search"
              placeholder="Name, company or address"
              aria-label="Quick search"
              value={words}
              onChange={(event) => setWords(event.target.value)}
            />
            <select
              className="select select-sm w-44 bg-[var(--sheet)]"
              aria-label="Saved filters"
              value={filter?.id ?? ''}
              onChange={(event) => use(filters.data?.find((one) => one.id === Number(event.target.value)) ?? null)}
            >
              <option value="">Saved filters…</option>
              {filters.data?.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </select>
            <button type="button" className="btn btn-sm btn-plain" onClick={() => setParams({ add: '1' })}>
              Add person
            </button>
          </>
        }
      />
      <Sentence
        clauses={clauses}
        aloud={sieve.data?.sentence}
        onChange={(next) => {
          setClauses(next)
          setFilter(null)
          setChosen(new Set())
        }}
      />
      <div className="flex items-center gap-2 my-2.5">
        <p className="grow" aria-live="polite">
          <strong className="font-semibold">{plural(searched ? total : (sieve.data?.matching ?? 0), 'person', 'people')}</strong>{' '}
          <span className="muted">
            {searched ? 'found in these' : asked ? 'match' : 'in all'}
            {asked && ` · ${filter ? `saved as ${filter.name}` : 'not saved'}`}
            {chosen.size > 0 && ` · ${number(chosen.size)} chosen`}
          </span>
        </p>
        <button
          type="button"
          className="btn btn-sm btn-plain"
          disabled={!asked || Boolean(filter)}
          onClick={() => setSaving(true)}
        >
          Save as filter
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={(!asked && chosen.size === 0) || create.sequence.isPending}
          title={asked ? undefined : 'Say whom you mean first, or choose people below'}
          onClick={() => create.sequence.mutate({ name: filter?.name ? `To ${filter.name}` : undefined, audience })}
        >
          Write to {chosen.size > 0 ? `these ${chosen.size}` : 'them'}…
        </button>
      </div>
      {(people.error || sieve.error || create.sequence.error) && (
        <ErrorNote error={people.error ?? sieve.error ?? create.sequence.error} />
      )}
      <div className="grid grid-cols-[minmax(0,1fr)_266px] gap-5">
        <div className="min-w-0">
          {!people.data && !people.error && <Loading lines={10} />}
          {people.data && rows.length === 0 && (
            <Empty
              action={
                <button
                  type="button"
                  className="btn btn-sm btn-plain"
                  onClick={() => {
                    use(null)
                    setWords('')
                  }}
                >
                  Show everybody
                </button>
              }
            >
              Nobody matches this. Take a word out, or ask more widely.
            </Empty>
          )}
          {rows.length > 0 && <PeopleTable people={rows} chosen={chosen} onChoose={setChosen} onEnd={onEnd} />}
        </div>
        <div className="border-l border-base-300 pl-5">
          {sieve.data ? (
            <SievePanel sieve={sieve.data} onOpen={(part, label) => setOpen({ part, words: label })} />
          ) : (
            <Loading lines={5} />
          )}
        </div>
      </div>
      {open && (
        <PeopleBehind
          title={open.words.charAt(0).toUpperCase() + open.words.slice(1)}
          queryKey={['sieve', condition, open.part]}
          load={() => ask(api.POST('/api/audience/people', { body: { audience: { condition }, part: open.part } }))}
          onClose={() => setOpen(null)}
        />
      )}
      {saving && (
        <SaveFilter
          condition={condition}
          sentence={sieve.data?.sentence}
          onClose={() => setSaving(false)}
          onSaved={(saved) => {
            setFilter(saved)
            setSaving(false)
          }}
        />
      )}
      {adding && <AddPerson onClose={() => setParams({})} />}
    </>
  )
}
