import type { ReactNode } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { OpensPeople } from '../../parts/OpensPeople'

/** A figure of a sequence, or of one of its letters, which opens its people. */
export function FigureBehind({
  sequenceId,
  stepId,
  figure,
  title,
  children,
}: {
  sequenceId: number
  stepId?: number
  figure: Pick<Shape<'Figure'>, 'name' | 'count'>
  title: string
  children: ReactNode
}) {
  const query = { figure: figure.name, step_id: stepId }
  return (
    <OpensPeople
      title={title}
      count={figure.count}
      letters={figure.count}
      queryKey={['results', sequenceId, query]}
      load={() => ask(api.GET('/api/sequences/{id}/results/people', { params: { path: { id: sequenceId }, query } }))}
    >
      {children}
    </OpensPeople>
  )
}
