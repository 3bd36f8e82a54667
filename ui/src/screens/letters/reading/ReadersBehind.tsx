import type { ReactNode } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { OpensPeople } from '../../people/behind/OpensPeople'
import { lookedAtFor } from './lookedAtFor'

/** Which of a letter's readers a number counts. */
export type AskedReaders = { without: string } | { gap: string } | { seeing: Shape<'Condition'>; others?: boolean }

/** A number of a letter's readers, which opens them. */
export function ReadersBehind({
  letterId,
  sequenceId,
  asked,
  title,
  count,
  children,
}: {
  letterId: number
  sequenceId?: number
  asked: AskedReaders
  title: string
  count: number
  children: ReactNode
}) {
  return (
    <OpensPeople
      title={title}
      count={count}
      className="quiet-word !text-xs underline underline-offset-2"
      queryKey={['readers', letterId, sequenceId, asked]}
      load={(cursor) =>
        ask(
          api.POST('/api/letters/{id}/audience/people', {
            params: { path: { id: letterId }, query: lookedAtFor(sequenceId) },
            body: { ...asked, cursor },
          }),
        )
      }
    >
      {children}
    </OpensPeople>
  )
}
