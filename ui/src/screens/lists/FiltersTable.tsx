import { useQueryClient } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../api/client'
import { inTurn } from '../../app/useInTurn'
import { NameInPlace } from '../../parts/NameInPlace'
import { UsedIn } from '../../parts/UsedIn'
import { WriteToThem } from './WriteToThem'

type Filter = Shape<'Filter'>

/** Saved filters: what each means, who sees it and what uses it. */
export function FiltersTable({
  filters,
  onChange,
  onShow,
}: {
  filters: Filter[]
  onChange: (act: () => Promise<unknown>) => void
  onShow: (condition: Shape<'Condition'>) => void
}) {
  const client = useQueryClient()
  const path = (filter: Filter) => ({ path: { id: filter.id } })
  const change = (filter: Filter, body: { name?: string; shared?: boolean }) =>
    onChange(() =>
      inTurn(client, ['filters', filter.id], filter.version, (version) =>
        ask(api.PATCH('/api/filters/{id}', { params: path(filter), body: { ...body, version } })),
      ),
    )
  return (
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
        {filters.map((filter) => (
          <tr key={filter.id}>
            <td>
              <NameInPlace
                name={filter.name}
                label={`Name of the filter ${filter.name}`}
                onSave={(name) => change(filter, { name })}
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
                onChange={(event) => change(filter, { shared: event.target.value === 'all' })}
              >
                <option value="all">everybody</option>
                <option value="own">{filter.by ?? 'its maker'}</option>
              </select>
            </td>
            <td className="text-right whitespace-nowrap">
              <WriteToThem
                // Everybody sees whom a letter is for: of a filter that only its owner sees, it takes the condition.
                audience={filter.shared ? { filter_id: filter.id } : { condition: filter.condition }}
                whom={filter.name}
              />{' '}
              <button type="button" className="btn btn-xs btn-plain" onClick={() => onShow(filter.condition)}>
                Show
              </button>{' '}
              <button
                type="button"
                className="btn btn-xs btn-plain"
                onClick={() =>
                  onChange(() =>
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
                onClick={() => onChange(() => ask(api.DELETE('/api/filters/{id}', { params: path(filter) })))}
              >
                Take away
              </button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
