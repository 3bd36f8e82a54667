import { useQueryClient } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../api/client'
import { day } from '../../app/format'
import { useSession } from '../../app/session'
import { inTurn } from '../../app/useInTurn'
import { NameInPlace } from '../../parts/NameInPlace'
import { UsedIn } from '../../parts/UsedIn'
import { PeopleCount } from '../people/behind/PeopleCount'
import { WriteToThem } from './WriteToThem'

const condition = (list: Shape<'List'>): Shape<'Condition'> => ({ field: 'person.lists', is: 'one_of', value: [list.id] })

/** Lists by name; the number of each opens its people. */
export function ListsTable({
  lists,
  onChange,
  onShow,
}: {
  lists: Shape<'List'>[]
  onChange: (act: () => Promise<unknown>) => void
  onShow: (condition: Shape<'Condition'>) => void
}) {
  const { firm } = useSession()
  const client = useQueryClient()
  return (
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
        {lists.map((list) => (
          <tr key={list.id}>
            <td>
              <NameInPlace
                name={list.name}
                label={`Name of the list ${list.name}`}
                onSave={(name) =>
                  onChange(() =>
                    inTurn(client, ['lists', list.id], list.version, (version) =>
                      ask(api.PATCH('/api/lists/{id}', { params: { path: { id: list.id } }, body: { name, version } })),
                    ),
                  )
                }
              />
            </td>
            <td className="text-right">
              <PeopleCount bare title={list.name} count={list.people} condition={condition(list)} />
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
              <WriteToThem audience={{ lists: [list.id] }} whom={list.name} />{' '}
              <button type="button" className="btn btn-xs btn-plain" onClick={() => onShow(condition(list))}>
                Show
              </button>{' '}
              <button
                type="button"
                className="btn btn-xs btn-plain"
                onClick={() => onChange(() => ask(api.DELETE('/api/lists/{id}', { params: { path: { id: list.id } } })))}
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
