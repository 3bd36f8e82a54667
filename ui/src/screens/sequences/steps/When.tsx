import { useQuery } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../../api/client'
import { moment } from '../../../app/format'

type Step = Shape<'Step'>

/** Somebody who comes to a step, to show it with. */
export function useReader(step: Step) {
  const { data } = useQuery({
    queryKey: ['stack', step.id, 'reader'],
    queryFn: () => ask(api.GET('/api/steps/{id}/reader', { params: { path: { id: step.id } } })),
    enabled: step.kind !== 'fork' && (step.kind !== 'letter' || Boolean(step.letter_id)),
  })
  return data
}

/** When a step is for somebody if nothing happens, by their clock, and why then. */
export function When({ step, personId }: { step: Step; personId: number }) {
  const { data } = useQuery({
    queryKey: ['stack', step.id, 'when', personId],
    queryFn: () => ask(api.GET('/api/steps/{id}/when/{person_id}', { params: { path: { id: step.id, person_id: personId } } })),
  })
  if (!data) return null
  if (!data.what || !data.at) return <p className="text-xs muted mb-2">{data.why}</p>
  return (
    <details className="text-xs mb-2">
      <summary className="cursor-pointer">
        {data.what === 'skip' ? 'Passes them by ' : step.kind === 'letter' ? 'Goes to them ' : 'Comes '}
        <strong className="font-semibold">{moment(data.at, data.zone)}</strong> their time.{' '}
        <span className="underline decoration-dotted">Why then?</span>
      </summary>
      <p className="muted mt-1">{data.why}</p>
    </details>
  )
}

/** The same for a step that is no letter, with the name of whom it is for. */
export function WhenForSomebody({ step }: { step: Step }) {
  const reader = useReader(step)
  if (!reader?.person_id) return null
  return (
    <div className="mt-2">
      <p className="field-label">For {reader.name}</p>
      <When step={step} personId={reader.person_id} />
    </div>
  )
}
