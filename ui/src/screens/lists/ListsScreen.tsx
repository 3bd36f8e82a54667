import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { stale } from '../../app/stale'
import { Header } from '../../parts/Header'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { fromCondition } from '../people/asking/conditions'
import { PeoplePlaces } from '../people/PeoplePlaces'
import { KEPT_SENTENCE, useFilters } from '../people/table/usePeople'
import { FiltersTable } from './FiltersTable'
import { ListsTable } from './ListsTable'

/** Lists, which stay as they are, and filters, which are always live: who is in them and what uses them. */
export function ListsScreen() {
  const client = useQueryClient()
  const navigate = useNavigate()
  const lists = useQuery({ queryKey: ['lists'], queryFn: async () => (await ask(api.GET('/api/lists'))).lists })
  const filters = useFilters()
  const change = useMutation({
    scope: { id: 'lists and filters' },
    mutationFn: (act: () => Promise<unknown>) => act(),
    onSettled: () => {
      stale(client, 'lists')
    },
  })
  const show = (condition: Shape<'Condition'>) => {
    sessionStorage.setItem(KEPT_SENTENCE, JSON.stringify(fromCondition(condition)))
    navigate('/people')
  }
  const error = lists.error ?? filters.error ?? change.error
  return (
    <>
      <Header title="Lists and filters" />
      <PeoplePlaces />
      {error && <ErrorNote error={error} />}
      <section className="mb-8">
        <h2 className="border-b border-base-300 pb-1">Lists</h2>
        {!lists.data && !lists.error && <Loading lines={3} />}
        {lists.data?.length === 0 && <Empty>No list yet. Under Everybody, choose people and keep them as a list.</Empty>}
        {lists.data && lists.data.length > 0 && <ListsTable lists={lists.data} onChange={change.mutate} onShow={show} />}
      </section>
      <section>
        <h2 className="border-b border-base-300 pb-1">Filters</h2>
        {filters.data?.length === 0 && <Empty>No filter yet. Under Everybody, say whom you mean and save it.</Empty>}
        {filters.data && filters.data.length > 0 && (
          <FiltersTable filters={filters.data} onChange={change.mutate} onShow={show} />
        )}
      </section>
    </>
  )
}
