import { useQuery } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../api/client'
import { money, number, percent, plural } from '../../app/format'
import { Empty, ErrorNote, Loading } from '../../parts/States'
import { PeopleCount } from '../people/behind/PeopleCount'
import { FigureBehind } from '../results/FigureBehind'
import { FIGURE_WORDS, FIGURES } from '../results/figures'
import { WriteAgain } from '../results/WriteAgain'

type Figure = Shape<'Figure'>
const RATED = ['opened', 'clicked', 'replied', 'quiet', 'unsubscribed', 'bounced', 'converted']

/** One figure with its rate and, where the base is small, the range it may lie in. */
function Cell({ sequenceId, stepId, figure, of }: { sequenceId: number; stepId?: number; figure?: Figure; of: string }) {
  if (!figure) return <td />
  const rated = RATED.includes(figure.name) && figure.rate != null
  return (
    <td className="text-right align-top">
      <FigureBehind sequenceId={sequenceId} stepId={stepId} figure={figure} of={of}>
        {number(figure.count)}
      </FigureBehind>
      {figure.people != null && figure.people !== figure.count && (
        <span className="block text-xs muted whitespace-nowrap font-normal">{plural(figure.people, 'person', 'people')}</span>
      )}
      {rated && figure.rate != null && (
        <span className="block text-xs muted whitespace-nowrap" title={`of ${number(figure.base ?? 0)} sent`}>
          {percent(figure.rate)}
          {figure.interval && figure.count > 0 && (
            <span className="block text-[11px]">
              {percent(figure.interval[0] ?? 0).replace(' %', '')}–{percent(figure.interval[1] ?? 0)}
            </span>
          )}
        </span>
      )}
    </td>
  )
}

/** Figures per step and in all; each opens its people. */
export function ResultsTab({ sequence }: { sequence: Shape<'Sequence'> }) {
  const { data, error } = useQuery({
    queryKey: ['results', sequence.id],
    queryFn: () => ask(api.GET('/api/sequences/{id}/results', { params: { path: { id: sequence.id } } })),
  })
  if (error) return <ErrorNote error={error} />
  if (!data) return <Loading />
  if (sequence.state === 'draft') return <Empty>Results come once it has started.</Empty>
  const rows = [
    ...data.steps.map((step) => ({
      key: String(step.step_id),
      name: step.position ? `${step.position}. ${step.letter ?? ''}` : (step.letter ?? 'A letter'),
      gone: step.position == null,
      step: step.step_id,
      figures: step.figures,
    })),
    { key: 'all', name: 'All letters', gone: false, step: undefined, figures: data.total },
  ]
  const converted = data.total.find((figure) => figure.name === 'converted')?.count ?? 0
  return (
    <>
      <p className="font-serif text-lg mb-3">
        {plural(data.people, 'person', 'people')}, {plural(converted, 'conversion')} worth {money(data.value_pence)}.
      </p>
      <div className="overflow-x-auto">
        <table className="plain w-full">
          <thead>
            <tr>
              <th>Letter</th>
              {FIGURES.map((name) => (
                <th key={name} className="!text-right">
                  {FIGURE_WORDS[name]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.key} className={row.key === 'all' ? 'font-semibold bg-base-200/50' : ''}>
                <td className="font-serif text-base align-top min-w-40">
                  {row.name}
                  {row.gone && <span className="muted font-sans text-xs"> taken out since</span>}
                  <span className="block font-sans mt-1">
                    <WriteAgain
                      sequenceId={sequence.id}
                      stepId={row.step}
                      count={row.figures.find((figure) => figure.name === 'quiet')?.count ?? 0}
                    />
                  </span>
                </td>
                {FIGURES.map((name) => (
                  <Cell
                    key={name}
                    sequenceId={sequence.id}
                    stepId={row.step}
                    figure={row.figures.find((figure) => figure.name === name)}
                    of={row.name}
                  />
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {data.may > 0 && (
        <p className="mt-2">
          Up to{' '}
          <FigureBehind sequenceId={sequence.id} figure={{ name: 'may', count: data.may }} of="All letters">
            {plural(data.may, 'more letter')}
          </FigureBehind>{' '}
          may come by lanes. Nobody knows yet who goes there, so they are not in the plan.
        </p>
      )}
      <p className="muted text-xs mt-2">
        Sent, still due, failed, skipped and in doubt add up to planned. Rates are shares of what was sent; under 100 letters the
        range below holds the true rate 19 times in 20. Opens and clicks by machines are left out, and what came of a letter in
        doubt until it is settled. Quiet is who had a letter and neither opened, clicked nor replied; in all, to none of them.
      </p>
      <h2 className="mt-7 mb-2 border-b border-base-300 pb-1">What we say of them</h2>
      <div className="max-w-xl">
        {data.statuses.map((status) => (
          <div key={status.key} className="grid grid-cols-[170px_minmax(0,1fr)_50px] gap-3 items-center py-1">
            <span>
              {status.words}
              {status.response && <span className="text-success text-xs"> response</span>}
            </span>
            <span className="h-2.5 bg-base-200">
              <span
                className={`block h-full ${status.response ? 'bg-success' : 'bg-primary'}`}
                style={{ width: `${data.people ? (status.count / data.people) * 100 : 0}%` }}
              />
            </span>
            <span className="text-right">
              <PeopleCount
                bare
                title={`Status: ${status.words}`}
                count={status.count}
                condition={{ membership: 'was_in', sequence_id: sequence.id, status: [status.key] }}
              />
            </span>
          </div>
        ))}
      </div>
    </>
  )
}
