import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../api/client'
import { money, number, percent, shortDate } from '../../app/format'
import { useNow } from '../../app/usePost'
import { Header, StateBadge } from '../../parts/Header'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { FigureBehind } from './FigureBehind'
import { FIGURE_WORDS, type FigureName } from './figures'

const RATES = ['opened', 'clicked', 'replied', 'quiet', 'unsubscribed', 'converted'] as const
type State = Parameters<typeof StateBadge>[0]['state']

type Row = Shape<'AllResults'>['sequences'][number]

/** A figure of one sequence, opening its people, with its rate where it has one. */
function Cell({ sequence, name, rated = false }: { sequence: Row; name: FigureName; rated?: boolean }) {
  const figure = sequence.figures.find((one) => one.name === name)
  if (!figure || (rated && figure.rate == null)) return <td className="text-right muted">—</td>
  return (
    <td className="text-right whitespace-nowrap">
      {rated && figure.rate != null && <span className="muted text-xs mr-1.5">{percent(figure.rate)}</span>}
      <FigureBehind sequenceId={sequence.id} figure={figure} of={sequence.name}>
        {number(figure.count)}
      </FigureBehind>
    </td>
  )
}

/** Every sequence that was started, side by side. */
export function ResultsScreen() {
  const now = useNow()
  const { data, error, refetch } = useQuery({
    queryKey: ['results'],
    queryFn: async () => (await ask(api.GET('/api/results'))).sequences,
  })
  if (error) return <ErrorNote error={error} retry={refetch} />
  if (!data) return <Loading />
  const figure = (figures: Shape<'Figure'>[], name: string) => figures.find((one) => one.name === name)
  const worth = data.reduce((sum, sequence) => sum + sequence.value_pence, 0)
  const conversions = data.reduce((sum, sequence) => sum + (figure(sequence.figures, 'converted')?.count ?? 0), 0)
  return (
    <>
      <Header
        title="Results"
        aside={<span className="muted">{data.length > 0 && `${number(conversions)} conversions worth ${money(worth)}`}</span>}
      />
      {data.length === 0 && <Empty>Results come once a sequence has started.</Empty>}
      {data.length > 0 && (
        <>
          <table className="plain w-full">
            <thead>
              <tr>
                <th>Sequence</th>
                <th>State</th>
                <th>Started</th>
                <th className="!text-right">People</th>
                <th className="!text-right">Planned</th>
                <th className="!text-right">Sent</th>
                {RATES.map((name) => (
                  <th key={name} className="!text-right">
                    {FIGURE_WORDS[name]}
                  </th>
                ))}
                <th className="!text-right">Worth</th>
              </tr>
            </thead>
            <tbody>
              {data.map((sequence) => (
                <tr key={sequence.id} className="row-link">
                  <td>
                    <Link to={`/sequences/${sequence.id}/results`} className="font-serif text-base block">
                      {sequence.name}
                    </Link>
                  </td>
                  <td>
                    <StateBadge state={sequence.state as State} />
                  </td>
                  <td className="muted whitespace-nowrap">{sequence.started_at && shortDate(sequence.started_at, now)}</td>
                  <td className="text-right">
                    <Link to={`/sequences/${sequence.id}/members`} className="hover:underline">
                      {number(sequence.people)}
                    </Link>
                  </td>
                  <Cell sequence={sequence} name="planned" />
                  <Cell sequence={sequence} name="sent" />
                  {RATES.map((name) => (
                    <Cell key={name} sequence={sequence} name={name} rated />
                  ))}
                  <td className="text-right font-semibold">{money(sequence.value_pence)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="muted text-xs mt-2">
            Rates are shares of the letters sent; the number beside each says how many, and opens the people behind it.
          </p>
        </>
      )}
    </>
  )
}
