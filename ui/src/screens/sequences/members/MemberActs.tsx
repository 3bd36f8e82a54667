import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../../api/client'
import { useTellChange } from '../../../app/changes'
import { stale } from '../../../app/stale'
import { ErrorNote } from '../../../parts/States'

type Act = 'take_out' | 'pause' | 'go_on' | 'skip_step'

/** What can be done to one member; all but the nod is taken back from the note below. */
export function MemberActs({ sequence, member }: { sequence: Shape<'Sequence'>; member: Shape<'Member'> }) {
  const client = useQueryClient()
  const tellChange = useTellChange()
  const act = useMutation({
    mutationFn: (kind: Act) =>
      ask(api.POST('/api/changes', { body: { act: { kind, sequence_id: sequence.id }, people: { ids: [member.person_id] } } })),
    onSuccess: (change) => {
      tellChange(change)
      stale(client, 'members')
    },
  })
  const nod = useMutation({
    mutationFn: () => ask(api.POST('/api/members/{id}/nod', { params: { path: { id: member.id } } })),
    onSuccess: () => stale(client, 'members'),
  })
  if (member.state !== 'active' || !['running', 'paused'].includes(sequence.state)) return null
  const button = (words: string, label: string, onClick: () => void) => (
    <button type="button" className="btn btn-xs btn-plain" aria-label={`${label} ${member.name}`} onClick={onClick}>
      {words}
    </button>
  )
  return (
    <span className="inline-flex gap-1">
      {member.waits_for === 'nod' && button('May go', 'The letter may go to', () => nod.mutate())}
      {member.paused
        ? button('Go on', 'Go on with', () => act.mutate('go_on'))
        : button('Pause', 'Pause', () => act.mutate('pause'))}
      {button('Skip step', 'Skip the next step of', () => act.mutate('skip_step'))}
      {button('Take out', 'Take out', () => act.mutate('take_out'))}
      {(act.error ?? nod.error) && <ErrorNote error={(act.error ?? nod.error) as Error} />}
    </span>
  )
}
