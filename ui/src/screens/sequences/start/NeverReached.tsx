import { api, ask, type Shape } from '../../../api/client'
import { OpensPeople } from '../../people/behind/OpensPeople'

/** Opens those whom a letter would never reach, where a remark of the check speaks of them. */
export function NeverReached({ sequenceId, remark }: { sequenceId: number; remark: Shape<'Ready'>['remarks'][number] }) {
  if (remark.code !== 'never_for_some') return null
  return (
    <>
      {' '}
      <OpensPeople
        title="Would never get it"
        count={remark.count ?? 0}
        queryKey={['ready', sequenceId, 'never', remark.step_id]}
        load={(cursor) =>
          ask(
            api.GET('/api/sequences/{id}/ready/people', {
              params: { path: { id: sequenceId }, query: { never: remark.step_id, cursor } },
            }),
          )
        }
      >
        Who they are
      </OpensPeople>
    </>
  )
}
