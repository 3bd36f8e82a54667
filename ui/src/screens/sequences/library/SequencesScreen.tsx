import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, ask } from '../../../api/client'
import { number, plural, shortDate } from '../../../app/format'
import { useKeys } from '../../../app/keys'
import { useSession } from '../../../app/session'
import { useNow } from '../../../app/usePost'
import { Header, StateBadge, startsAt } from '../../../parts/Header'
import { Empty, ErrorNote, Loading } from '../../../parts/States'
import { FigureBehind } from '../../results/FigureBehind'
import { NewSequence } from './NewSequence'

/** All sequences and where they stand. */
export function SequencesScreen() {
  const { firm } = useSession()
  const now = useNow()
  const [making, setMaking] = useState(false)
  const { data, error, refetch } = useQuery({
    queryKey: ['sequences'],
    queryFn: async () => (await ask(api.GET('/api/sequences'))).sequences,
  })
  useKeys([{ key: 'n', words: 'New sequence', run: () => setMaking(true) }])
  return (
    <>
      <Header
        title="Sequences"
        aside={<span className="muted">{data && plural(data.length, 'sequence')}</span>}
        actions={
          <button type="button" className="btn btn-sm btn-primary" onClick={() => setMaking(true)}>
            New sequence
          </button>
        }
      />
      {making && <NewSequence onClose={() => setMaking(false)} />}
      {error && <ErrorNote error={error} retry={refetch} />}
      {!data && !error && <Loading />}
      {data?.length === 0 && (
        <Empty>No sequence yet. Pick people first, then “Write to them…”, or begin with “New sequence”.</Empty>
      )}
      {data && data.length > 0 && (
        <table className="plain w-full">
          <thead>
            <tr>
              <th>Name</th>
              <th>State</th>
              <th className="!text-right">Steps</th>
              <th className="!text-right">People</th>
              <th className="!text-right">Planned</th>
              <th className="!text-right">Sent</th>
              <th className="!text-right">Replied</th>
              <th>Started</th>
            </tr>
          </thead>
          <tbody>
            {data.map((sequence) => (
              <tr key={sequence.id} className="row-link">
                <td>
                  <Link to={`/sequences/${sequence.id}`} className="font-serif text-base block">
                    {sequence.name}
                  </Link>
                </td>
                <td>
                  <StateBadge state={sequence.state} more={startsAt(sequence, firm.time_zone)} />
                </td>
                <td className="text-right">{sequence.steps}</td>
                <td className="text-right">
                  <Link to={`/sequences/${sequence.id}/members`} className="hover:underline">
                    {number(sequence.people)}
                  </Link>
                </td>
                {(['planned', 'sent', 'replied'] as const).map((name) => (
                  <td key={name} className="text-right">
                    <FigureBehind sequenceId={sequence.id} figure={{ name, count: sequence[name] }} of={sequence.name}>
                      {number(sequence[name])}
                    </FigureBehind>
                  </td>
                ))}
                <td className="muted">{sequence.started_at ? shortDate(sequence.started_at, now) : 'not yet'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  )
}
