import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../../api/client'
import { useTellChange } from '../../../app/changes'
import { plural } from '../../../app/format'
import { stale } from '../../../app/stale'
import { useCatalogue } from '../../../app/useCatalogue'
import { MenuList } from '../../../parts/MenuList'
import { Popover } from '../../../parts/Popover'
import { ErrorNote } from '../../../parts/States'
import { flat } from '../plan/plan'
import { type Asked, some } from './useMembers'

type Kind = 'take_out' | 'pause' | 'go_on' | 'skip_step' | 'move_to'

/** What can be done with the members chosen; everything but a status is taken back from the note below. */
export function ActOnMembers({
  sequence,
  asked,
  total,
  chosen,
  onChoose,
}: {
  sequence: Shape<'Sequence'>
  asked: Asked
  total: number
  /** People. */
  chosen: Set<number>
  onChoose: (people: Set<number>) => void
}) {
  const client = useQueryClient()
  const tellChange = useTellChange()
  const { data: catalogue } = useCatalogue()
  const people = { ids: [...chosen] }
  const all = useMutation({
    mutationFn: () =>
      ask(api.GET('/api/sequences/{id}/members/people', { params: { path: { id: sequence.id }, query: some(asked) } })),
    onSuccess: (found) => onChoose(new Set(found.ids)),
  })
  const act = useMutation({
    mutationFn: ({ kind, step_id }: { kind: Kind; step_id?: number }) =>
      ask(
        api.POST('/api/changes', { body: { act: { kind, sequence_id: sequence.id, ...(step_id ? { step_id } : {}) }, people } }),
      ),
    onSuccess: (change) => {
      tellChange(change)
      stale(client, 'members')
      onChoose(new Set())
    },
  })
  const status = useMutation({
    mutationFn: (key: string) =>
      ask(
        api.POST('/api/sequences/{id}/members/status', {
          params: { path: { id: sequence.id } },
          body: { people: people.ids, status: key },
        }),
      ),
    onSuccess: () => {
      stale(client, 'members')
      onChoose(new Set())
    },
  })
  const under = ['running', 'paused'].includes(sequence.state)
  const button = (words: string, kind: Kind) => (
    <button type="button" className="btn btn-xs btn-plain" disabled={act.isPending} onClick={() => act.mutate({ kind })}>
      {words}
    </button>
  )
  return (
    <div className="flex flex-wrap items-center gap-2 mb-2 bg-base-200 px-3 py-1.5 rounded-sm">
      <strong className="font-semibold">{plural(chosen.size, 'person', 'people')} chosen</strong>
      {chosen.size < total && (
        <button type="button" className="underline underline-offset-2 text-[13px]" onClick={() => all.mutate()}>
          choose all {total}
        </button>
      )}
      {under && (
        <>
          {button('Pause', 'pause')}
          {button('Let go on', 'go_on')}
          {button('Skip the next step', 'skip_step')}
          <Popover words="Move to a step" label="Move them to a step" className="btn btn-xs btn-plain">
            {(shut) => (
              <MenuList
                className="w-72"
                items={flat(sequence.steps).map(({ step }) => ({ value: step.id, words: `${step.position}: ${step.headline}` }))}
                onPick={(step_id) => {
                  shut()
                  act.mutate({ kind: 'move_to', step_id })
                }}
              />
            )}
          </Popover>
          {button('Take out', 'take_out')}
        </>
      )}
      <Popover words="Set status" label="Set their status" className="btn btn-xs btn-plain">
        {(shut) => (
          <MenuList
            items={(catalogue?.statuses ?? []).map((one) => ({ value: one.key, words: one.words }))}
            onPick={(key) => {
              shut()
              status.mutate(key)
            }}
          />
        )}
      </Popover>
      <button type="button" className="muted text-[13px] underline underline-offset-2" onClick={() => onChoose(new Set())}>
        none
      </button>
      {(act.error ?? status.error ?? all.error) && <ErrorNote error={act.error ?? status.error ?? all.error} />}
    </div>
  )
}
