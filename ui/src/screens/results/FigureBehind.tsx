import type { ReactNode } from 'react'
import { api, ask, type Shape } from '../../api/client'
import { OpensPeople } from '../people/behind/OpensPeople'
import { FIGURE_WORDS, type FigureName } from './figures'

/** A figure of a sequence, or of one of its letters, which opens its people. */
export function FigureBehind({
  sequenceId,
  stepId,
  figure,
  of,
  children,
}: {
  sequenceId: number
  stepId?: number
  figure: Pick<Shape<'Figure'>, 'name' | 'count'>
  /** Whose figure it is: the sequence, or one of its letters. */
  of: string
  children: ReactNode
}) {
  const query = { figure: figure.name, step_id: stepId }
  return (
    <OpensPeople
      title={`${FIGURE_WORDS[figure.name as FigureName]}: ${of}`}
      count={figure.count}
      letters={figure.count}
      queryKey={['results', sequenceId, query]}
      load={(cursor) =>
        ask(api.GET('/api/sequences/{id}/results/people', { params: { path: { id: sequenceId }, query: { ...query, cursor } } }))
      }
    >
      {children}
    </OpensPeople>
  )
}
