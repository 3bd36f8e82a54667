import { useQueryClient } from '@tanstack/react-query'
import { useDeferredValue, useEffect, useMemo, useState } from 'react'
import { useLocation, useNavigate, useSearchParams } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { number, plural } from '../../app/format'
import { useKeys } from '../../app/keys'
import { useCatalogue } from '../../app/useCatalogue'
import { useCreate } from '../../app/useCreate'
import { Header } from '../../parts/Header'
import { ErrorNote, Loading } from '../../parts/States'
import { AddPerson } from './acting/AddPerson'
import { DoMany } from './acting/DoMany'
import { FilterMenu } from './acting/FilterMenu'
import { KeepList } from './acting/KeepList'
import { SaveFilter } from './acting/SaveFilter'
import { EVERYBODY, fromCondition, type Group, toCondition } from './asking/conditions'
import { Sentence } from './asking/Sentence'
import { PeopleBehind } from './behind/PeopleBehind'
import { PeoplePlaces } from './PeoplePlaces'
import { SievePanel } from './SievePanel'
import { readShown, writeShown } from './table/address'
import { ColumnChoice } from './table/ColumnChoice'
import { type Chosen, NOBODY, PeopleTable } from './table/PeopleTable'
import { PersonBeside } from './table/PersonBeside'
import { FIRST_VIEW, KEPT_SENTENCE, useFilters, useSieve, useView, type View } from './table/usePeople'

/** The sentence outlives a look at somebody's record, and a reload; one in the address of the page goes before. */
function useKeptSentence(given: Group | null): [Group, (sentence: Group) => void] {
  const [sentence, setSentence] = useState<Group>(() => {
    if (given) return given
    try {
      const kept = JSON.parse(sessionStorage.getItem(KEPT_SENTENCE) ?? 'null') as Group | null
      return kept?.kind === 'group' ? kept : EVERYBODY
    } catch {
      return EVERYBODY
    }
  })
  useEffect(() => sessionStorage.setItem(KEPT_SENTENCE, JSON.stringify(sentence)), [sentence])
  return [sentence, setSentence]
}

const plus = (params: URLSearchParams, name: string, value: string) => ({ ...Object.fromEntries(params), [name]: value })
const without = (params: URLSearchParams, name: string) => Object.fromEntries([...params].filter(([one]) => one !== name))

/** The firm's shared records: who they are, picked with a sentence, with the sieve beside them. */
export function PeopleScreen() {
  const [params, setParams] = useSearchParams()
  const navigate = useNavigate()
  const client = useQueryClient()
  const { data: catalogue } = useCatalogue()
  const [asAddressed] = useState(() => readShown(params))
  const [sentence, setSentence] = useKeptSentence(asAddressed.sentence)
  // People that no sentence means: those behind a number, as they were found.
  const [these, setThese] = useState<{ ids: number[]; title: string } | null>(null)
  const [filter, setFilter] = useState<Shape<'Filter'> | null>(null)
  const [words, setWords] = useState(asAddressed.words)
  const [chosen, setChosen] = useState<Chosen>(NOBODY)
  const [beside, setBeside] = useState<number | null>(asAddressed.open)
  const [sort, setSort] = useState(asAddressed.sort)
  const [total, setTotal] = useState<number | undefined>()
  const [behind, setBehind] = useState<{ part: string; words: string } | null>(null)
  const [dialog, setDialog] = useState<'filter' | 'list' | null>(null)
  const [ownView, setOwnView] = useView()
  const [view, setFilterView] = useState<View | null>(null)
  const create = useCreate()
  const filters = useFilters()
  const condition = useMemo(() => toCondition(sentence), [sentence])
  const searched = useDeferredValue(words.trim())
  const shownView = useMemo(() => (sort ? { ...(view ?? ownView), sort } : (view ?? ownView)), [view, ownView, sort])
  const asked = useMemo(
    () => ({ ...(these ? { ids: these.ids } : { condition }), ...(searched ? { words: searched } : {}), ...shownView }),
    [condition, these, searched, shownView],
  )
  const meant = useMemo(() => (these ? { people: these.ids } : { condition }), [these, condition])
  const sieve = useSieve(meant)
  const says = these !== null || (condition.all?.length ?? condition.any?.length ?? 1) > 0
  useKeys([
    { key: 'n', words: 'Add person', run: () => setParams(plus(params, 'add', '1')) },
    { key: 'f', words: 'Quick search', run: () => document.getElementById('quick-search')?.focus() },
    { key: 'i', words: 'Bring people in from a file', leaves: true, run: () => navigate('/files?new=1') },
    { key: 'x', words: 'Choose nobody', run: () => setChosen(NOBODY) },
  ])
  const setView = (next: View) => {
    setSort(null)
    filter?.view ? setFilterView(next) : setOwnView(next)
  }
  // What is shown stands in the address of the page, in place of what stood there.
  const adding = params.has('add')
  useEffect(() => {
    const wanted = writeShown({ condition, words: searched, sort: shownView.sort, open: beside })
    setParams({ ...wanted, ...(adding ? { add: '1' } : {}) }, { replace: true })
  }, [condition, searched, shownView.sort, beside, adding, setParams])
  const use = (one: Shape<'Filter'> | null) => {
    setSort(null)
    setThese(null)
    setFilter(one)
    setSentence(one ? fromCondition(one.condition) : EVERYBODY)
    setFilterView(one?.view ? { columns: one.view.columns ?? FIRST_VIEW.columns, sort: one.view.sort ?? null } : null)
    setChosen(NOBODY)
  }
  // Opened from a number elsewhere, or from one on this very screen.
  const given = useLocation().state as { condition?: Shape<'Condition'>; ids?: number[]; title?: string } | null
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each number that is opened
  useEffect(() => {
    if (!given?.condition && !given?.ids) return
    use(null)
    setWords('')
    setBehind(null)
    if (given.condition) setSentence(fromCondition(given.condition))
    else if (given.ids) setThese({ ids: given.ids, title: given.title ?? 'These people' })
    navigate('/people', { replace: true, state: null })
  }, [given])
  const changed = filter !== null && JSON.stringify(toCondition(fromCondition(filter.condition))) !== JSON.stringify(condition)
  const count = chosen.all ? Math.max(0, (total ?? 0) - chosen.ids.size) : chosen.ids.size
  const people: Shape<'Chosen'> =
    count === 0 || (chosen.all && chosen.ids.size === 0)
      ? says || searched
        ? { ...(these ? { ids: these.ids } : { condition }), ...(searched ? { words: searched } : {}) }
        : { everybody: true }
      : chosen.all
        ? { audience: { ...meant, without: [...chosen.ids] }, ...(searched ? { words: searched } : {}) }
        : { ids: [...chosen.ids] }
  const audience: Shape<'Audience'> =
    count > 0 && !chosen.all
      ? { people: [...chosen.ids] }
      : {
          // Everybody sees whom a sequence is for: of a filter that only its owner sees, it takes the condition.
          ...(filter?.shared && !changed ? { filter_id: filter.id } : meant),
          ...(chosen.all && chosen.ids.size > 0 ? { without: [...chosen.ids] } : {}),
        }
  const matching = searched ? total : sieve.data?.matching
  // A quick search is for looking; whom a letter goes to is said in the sentence, or chosen one by one.
  const onlySearched = searched !== '' && (count === 0 || chosen.all)
  const meansSome = (says || count > 0) && !onlySearched
  useKeys([
    { key: 'a', words: 'Say who', run: () => document.querySelector<HTMLElement>('[aria-label="And…"]')?.click() },
    ...(meansSome ? [{ key: 'w', words: 'Write to them…', leaves: true, run: () => create.letter.mutate({ audience }) }] : []),
  ])
  if (!catalogue) return <Loading />
  return (
    <div className="h-full flex flex-col min-h-0">
      <Header
        title="People"
        aside={
          <span className="muted">{sieve.data && !says ? plural(sieve.data.matching, 'record') : (filter?.name ?? '')}</span>
        }
        actions={
          <>
            <input
              id="quick-search"
              className="text-field !w-64"
              type="search"
              placeholder="Name, company, address, phone"
              aria-label="Quick search"
              value={words}
              onChange={(event) => {
                setWords(event.target.value)
                setChosen(NOBODY)
              }}
            />
            <FilterMenu filters={filters.data ?? []} current={filter} onUse={use} />
            <button type="button" className="btn btn-sm btn-plain" onClick={() => navigate('/files?new=1')}>
              Bring in…
            </button>
            <button type="button" className="btn btn-sm btn-plain" onClick={() => setParams(plus(params, 'add', '1'))}>
              Add person
            </button>
          </>
        }
      />
      <PeoplePlaces />
      {these ? (
        <p className="font-serif text-lg">
          {these.title}: the {plural(these.ids.length, 'person', 'people')} behind that number, as they were found.{' '}
          <button type="button" className="word font-sans text-sm" onClick={() => use(null)}>
            Everybody again
          </button>
        </p>
      ) : (
        <Sentence
          sentence={sentence}
          onChange={(next) => {
            setSentence(next)
            setChosen(NOBODY)
          }}
        />
      )}
      <div className="flex items-center gap-2 my-2">
        <p className="grow" aria-live="polite">
          {count > 0 ? (
            <>
              <strong className="font-semibold">{number(count)} chosen</strong>{' '}
              {!chosen.all && total !== undefined && total > count && (
                <button type="button" className="word" onClick={() => setChosen({ all: true, ids: new Set() })}>
                  choose all {number(total)}
                </button>
              )}{' '}
              <button type="button" className="quiet-word" onClick={() => setChosen(NOBODY)}>
                nobody
              </button>
            </>
          ) : (
            <>
              <strong className="font-semibold">{matching === undefined ? '…' : plural(matching, 'person', 'people')}</strong>{' '}
              <span className="muted">
                {searched ? 'found' : says ? 'match' : 'in all'}
                {says &&
                  !these &&
                  ` · ${filter ? (changed ? `changed from ${filter.name}` : `saved as ${filter.name}`) : 'not saved'}`}
              </span>
            </>
          )}
        </p>
        <ColumnChoice catalogue={catalogue} view={shownView} onView={setView} />
        {(count > 0 || says || searched) && (
          <DoMany
            people={people}
            count={count || (matching ?? 0)}
            view={shownView}
            catalogue={catalogue}
            onDone={() => setChosen(NOBODY)}
          />
        )}
        <button
          type="button"
          className="btn btn-sm btn-plain"
          disabled={!says || these !== null || (filter !== null && !changed)}
          onClick={() => setDialog('filter')}
        >
          {changed ? 'Save the change…' : 'Save as filter'}
        </button>
        <button
          type="button"
          className="btn btn-sm btn-plain"
          disabled={!says && !searched && count === 0}
          onClick={() => setDialog('list')}
        >
          Keep {count > 0 ? `these ${number(count)}` : 'these'} as a list
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={!meansSome || create.letter.isPending}
          title={meansSome ? undefined : 'Say whom you mean first, or choose people below'}
          onClick={() => create.letter.mutate({ audience })}
        >
          Write to {count > 0 ? `these ${number(count)}` : 'them'}…
        </button>
      </div>
      {(sieve.error || create.letter.error) && <ErrorNote error={sieve.error ?? create.letter.error} />}
      <div className="grid grid-cols-[minmax(0,1fr)_266px] gap-5 grow min-h-0">
        <div className="min-w-0 min-h-0 flex flex-col">
          {matching === 0 && (
            <p className="py-6 font-serif text-lg muted">
              Nobody matches this. Take a word out, or{' '}
              <button
                type="button"
                className="word"
                onClick={() => {
                  use(null)
                  setWords('')
                }}
              >
                show everybody
              </button>
              .
            </p>
          )}
          {matching !== 0 && (
            <PeopleTable
              asked={asked}
              catalogue={catalogue}
              chosen={chosen}
              open={beside}
              onChoose={setChosen}
              onOpen={setBeside}
              onView={setView}
              onTotal={setTotal}
            />
          )}
        </div>
        <div className="border-l border-base-300 pl-5 overflow-auto min-h-0">
          {beside !== null ? (
            <PersonBeside id={beside} audience={meant} onClose={() => setBeside(null)} />
          ) : sieve.data ? (
            <SievePanel sieve={sieve.data} onOpen={(part, label) => setBehind({ part, words: label })} />
          ) : (
            <Loading lines={5} />
          )}
        </div>
      </div>
      {behind && (
        <PeopleBehind
          title={behind.words.charAt(0).toUpperCase() + behind.words.slice(1)}
          queryKey={['sieve', meant, behind.part]}
          load={(cursor) => ask(api.POST('/api/audience/people', { body: { audience: meant, part: behind.part, cursor } }))}
          onClose={() => setBehind(null)}
        />
      )}
      {dialog === 'filter' && (
        <SaveFilter
          condition={condition}
          sentence={sieve.data?.sentence}
          view={shownView}
          changing={changed ? filter : null}
          onClose={() => setDialog(null)}
          onSaved={(saved) => {
            setFilter(saved)
            setDialog(null)
          }}
        />
      )}
      {dialog === 'list' && (
        <KeepList
          people={people}
          count={count || (matching ?? 0)}
          madeFrom={count > 0 ? 'people chosen by hand' : (these?.title ?? sieve.data?.sentence)}
          onClose={() => setDialog(null)}
          onKept={() => {
            setDialog(null)
            setChosen(NOBODY)
            client.invalidateQueries({ queryKey: ['lists'] })
          }}
        />
      )}
      {adding && <AddPerson onClose={() => setParams(without(params, 'add'))} />}
    </div>
  )
}
