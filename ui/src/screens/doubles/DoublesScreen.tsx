import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { plural } from '../../app/format'
import { Header } from '../../parts/Header'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { PeoplePlaces } from '../people/PeoplePlaces'
import { MergeDialog } from './MergeDialog'

/** Records that may be one human, side by side: to merge, or to keep apart. */
export function DoublesScreen() {
  const client = useQueryClient()
  const [merging, setMerging] = useState<[number, number] | null>(null)
  const { data, error } = useQuery({ queryKey: ['doubles'], queryFn: async () => (await ask(api.GET('/api/doubles'))).pairs })
  const apart = useMutation({
    mutationFn: ([first_id, second_id]: [number, number]) =>
      ask(api.POST('/api/doubles/apart', { body: { first_id, second_id } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['doubles'] }),
  })
  const cell = (person: Shape<'PersonRow'>) => (
    <>
      <strong className="font-semibold">{person.name}</strong>
      <br />
      <span className="muted">{[person.company, person.city].filter(Boolean).join(', ') || 'no company'}</span>
      <br />
      {person.email ?? <span className="muted">no address</span>}
    </>
  )
  return (
    <>
      <Header title="Likely doubles" aside={<span className="muted">{data && plural(data.length, 'pair')}</span>} />
      <PeoplePlaces />
      {(error || apart.error) && <ErrorNote error={error ?? apart.error} />}
      {!data && !error && <Loading lines={6} />}
      {data?.length === 0 && <Empty>No two records look like one person.</Empty>}
      {data && data.length > 0 && (
        <table className="plain w-full">
          <thead>
            <tr>
              <th>The older record</th>
              <th>The newer record</th>
              <th>Why</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {data.map((pair) => (
              <tr key={`${pair.first.id} ${pair.second.id}`}>
                <td>{cell(pair.first)}</td>
                <td>{cell(pair.second)}</td>
                <td className="muted">{pair.words}</td>
                <td className="text-right whitespace-nowrap">
                  <button
                    type="button"
                    className="btn btn-sm btn-plain"
                    onClick={() => setMerging([pair.first.id, pair.second.id])}
                  >
                    Compare and merge…
                  </button>{' '}
                  <button
                    type="button"
                    className="btn btn-sm btn-plain"
                    disabled={apart.isPending}
                    onClick={() => apart.mutate([pair.first.id, pair.second.id])}
                  >
                    Two people
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {merging && <MergeDialog ids={merging} onClose={() => setMerging(null)} />}
    </>
  )
}
