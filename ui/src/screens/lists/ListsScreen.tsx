import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { day, number } from '../../app/format'
import { useSession } from '../../app/session'
import { Header } from '../../parts/Header'
import { PeopleBehind } from '../../parts/PeopleList'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { SubPlaces } from '../../parts/SubPlaces'
import { fromCondition } from '../people/conditions'
import { useFilters } from '../people/usePeople'

/** Where something is used, as links. */
export function UsedIn({ uses }: { uses: Shape<'Use'>[] }) {
  if (uses.length === 0) return <span className="muted">nowhere</span>
  return <>{uses.map((use) => `${use.name}${use.state ? ` (${use.state})` : ''}`).join(', ')}</>
}

/** A name that is changed in place. */
export function NameInPlace({ name, label, onSave }: { name: string; label: string; onSave: (name: string) => void }) {
  const [text, setText] = useState(name)
  return (
    <input
      className="w-full h-7 px-1 font-semibold rounded-sm bg-transparent border border-transparent hover:border-base-300 focus:border-primary focus:bg-[var(--sheet)]"
      aria-label={label}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => (text.trim() && text.trim() !== name ? onSave(text.trim()) : setText(name))}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur()
        if (event.key === 'Escape') setText(name)
      }}
    />
  )
}

/** Lists, which stay as they are, and filters, which are always live: who is in them and what uses them. */
export function ListsScreen() {
  const { firm } = useSession()
  const client = useQueryClient()
  const navigate = useNavigate()
  const [open, setOpen] = useState<Shape<'List'> | null>(null)
  const lists = useQuery({ queryKey: ['lists'], queryFn: async () => (await ask(api.GET('/api/lists'))).lists })
  const filters = useFilters()
  const refresh = () => {
    for (const key of ['lists', 'filters', 'catalogue', 'sieve']) client.invalidateQueries({ queryKey: [key] })
  }
  const change = useMutation({ mutationFn: (act: () => Promise<unknown>) => act(), onSettled: refresh })
  const show = (condition: Shape<'Condition'>) => {
    sessionStorage.setItem('nimble.sentence', JSON.stringify(fromCondition(condition)))
    navigate('/people')
  }
  const listCondition = (list: Shape<'List'>) => ({ field: 'person.lists', is: 'one_of', value: [list.id] })
  return (
    <>
      <Header title="Lists and filters" />
      <SubPlaces />
      {(lists.error || filters.error || change.error) && <ErrorNote error={lists.error ?? filters.error ?? change.error} />}
      <section className="mb-8">
        <h2 className="border-b border-base-300 pb-1">Lists</h2>
        {!lists.data && !lists.error && <Loading lines={3} />}
        {lists.data?.length === 0 && <Empty>No list yet. Under Everybody, choose people and keep them as a list.</Empty>}
        {lists.data && lists.data.length > 0 && (
          <table className="plain w-full">
            <thead>
              <tr>
                <th className="w-64">Name</th>
                <th className="!text-right">People</th>
                <th>Made from</th>
                <th>Used in</th>
                <th>Kept</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {lists.data.map((list) => (
                <tr key={`${list.id} ${list.version}`}>
                  <td>
                    <NameInPlace
                      name={list.name}
                      label={`Name of the list ${list.name}`}
                      onSave={(name) =>
                        change.mutate(() =>
                          ask(
                            api.PATCH('/api/lists/{id}', {
                              params: { path: { id: list.id } },
                              body: { name, version: list.version },
                            }),
                          ),
                        )
                      }
                    />
                  </td>
                  <td className="text-right">
                    <button type="button" className="word" onClick={() => setOpen(list)}>
                      {number(list.people)}
                    </button>
                  </td>
                  <td className="max-w-64 truncate" title={list.made_from ?? undefined}>
                    {list.made_from ?? <span className="muted">by hand</span>}
                  </td>
                  <td>
                    <UsedIn uses={list.used_in} />
                  </td>
                  <td className="muted whitespace-nowrap">
                    {day(list.created_at, firm.time_zone)}, {list.by}
                  </td>
                  <td className="text-right whitespace-nowrap">
                    <button type="button" className="btn btn-xs btn-plain" onClick={() => show(listCondition(list))}>
                      Show
                    </button>{' '}
                    <button
                      type="button"
                      className="btn btn-xs btn-plain"
                      onClick={() =>
                        change.mutate(() => ask(api.DELETE('/api/lists/{id}', { params: { path: { id: list.id } } })))
                      }
                    >
                      Take away
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </section>
      <section>
        <h2 className="border-b border-base-300 pb-1">Filters</h2>
        {filters.data?.length === 0 && <Empty>No filter yet. Under Everybody, say whom you mean and save it.</Empty>}
        {filters.data && filters.data.length > 0 && (
          <table className="plain w-full">
            <thead>
              <tr>
                <th className="w-64">Name</th>
                <th>Means</th>
                <th>Used in</th>
                <th>Seen by</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {filters.data.map((filter) => (
                <tr key={`${filter.id} ${filter.version}`}>
                  <td>
                    <NameInPlace
                      name={filter.name}
                      label={`Name of the filter ${filter.name}`}
                      onSave={(name) =>
                        change.mutate(() =>
                          ask(
                            api.PATCH('/api/filters/{id}', {
                              params: { path: { id: filter.id } },
                              body: { name, version: filter.version },
                            }),
                          ),
                        )
                      }
                    />
                  </td>
                  <td className="max-w-96">{filter.sentence}</td>
                  <td>
                    <UsedIn uses={filter.used_in} />
                  </td>
                  <td>
                    <select
                      className="select select-xs bg-transparent w-28"
                      aria-label={`Who sees ${filter.name}`}
                      value={filter.shared ? 'all' : 'own'}
                      onChange={(event) =>
                        change.mutate(() =>
                          ask(
                            api.PATCH('/api/filters/{id}', {
                              params: { path: { id: filter.id } },
                              body: { shared: event.target.value === 'all', version: filter.version },
                            }),
                          ),
                        )
                      }
                    >
                      <option value="all">everybody</option>
                      <option value="own">{filter.by ?? 'its maker'}</option>
                    </select>
                  </td>
                  <td className="text-right whitespace-nowrap">
                    <button type="button" className="btn btn-xs btn-plain" onClick={() => show(filter.condition)}>
                      Show
                    </button>{' '}
                    <button
                      type="button"
                      className="btn btn-xs btn-plain"
                      onClick={() =>
                        change.mutate(() =>
                          ask(
                            api.POST('/api/filters', {
                              body: { name: `${filter.name}, a copy`, condition: filter.condition, shared: filter.shared },
                            }),
                          ),
                        )
                      }
                    >
                      Copy
                    </button>{' '}
                    <button
                      type="button"
                      className="btn btn-xs btn-plain"
                      onClick={() =>
                        change.mutate(() => ask(api.DELETE('/api/filters/{id}', { params: { path: { id: filter.id } } })))
                      }
                    >
                      Take away
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </section>
      {open && (
        <PeopleBehind
          title={open.name}
          queryKey={['list', open.id]}
          load={() => ask(api.POST('/api/people/search', { body: { condition: listCondition(open), limit: 100 } }))}
          onClose={() => setOpen(null)}
        />
      )}
    </>
  )
}
