import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { number, plural } from '../../../app/format'
import { stale } from '../../../app/stale'
import { Modal } from '../../../parts/Modal'
import { ErrorNote } from '../../../parts/States'
import { OpensPeople } from '../../people/behind/OpensPeople'
import { AudienceEditor } from '../AudienceEditor'

type Again = 'leave_out' | 'keep' | 'reset'

/** Adds people to a sequence that runs; for who was in it before, it is asked what becomes of their status. */
export function AddPeople({
  sequence,
  audience: asked = {},
  onClose,
}: {
  sequence: { id: number; name: string }
  audience?: Shape<'Audience'>
  onClose: () => void
}) {
  const client = useQueryClient()
  const [audience, setAudience] = useState<Shape<'Audience'>>(asked)
  const [again, setAgain] = useState<Again>('leave_out')
  const path = { id: sequence.id }
  const said = Object.values(audience).some((value) => (Array.isArray(value) ? value.length > 0 : Boolean(value)))
  const preview = useQuery({
    queryKey: ['join', sequence.id, audience, again],
    queryFn: ({ signal }) => ask(api.POST('/api/sequences/{id}/join', { params: { path }, body: { audience, again }, signal })),
    enabled: said,
    placeholderData: keepPreviousData,
  })
  const add = useMutation({
    mutationFn: ({ letters, gaps }: Shape<'Joining'>) =>
      ask(api.POST('/api/sequences/{id}/join', { params: { path }, body: { audience, again, letters, gaps } })),
    onSuccess: () => {
      stale(client, 'joined')
      onClose()
    },
  })
  const numbers = said ? preview.data : undefined
  const before = numbers?.again.reduce((sum, one) => sum + one.people, 0) ?? 0
  const wasIn: Shape<'Condition'> = { membership: 'was_in', sequence_id: sequence.id }
  const behind = (words: string, count: number, part: string, condition?: Shape<'Condition'>) => (
    <OpensPeople
      title={`They ${words}`}
      count={count}
      queryKey={['join', sequence.id, audience, part, condition]}
      load={(cursor) =>
        ask(
          api.POST('/api/people/search', {
            body: {
              audience,
              part,
              sequence_id: sequence.id,
              ...(condition ? { condition } : {}),
              limit: 60,
              offset: Number(cursor ?? 0),
              same: !cursor,
            },
          }),
        )
      }
    >
      {number(count)}
    </OpensPeople>
  )
  return (
    <Modal wide title={`Add people to “${sequence.name}”`} onClose={onClose}>
      <AudienceEditor audience={audience} onChange={setAudience} />
      {(preview.error || add.error) && <ErrorNote error={preview.error ?? add.error} />}
      {numbers && (
        <div className="mt-4 border-t border-base-300 pt-3" aria-live="polite">
          <p>
            {behind('match', numbers.sieve.matching, 'matching')} match,{' '}
            {behind('would join for the first time', numbers.fresh, 'would_get_it', { not: wasIn })} would join for the first time
            {before > 0 && <>, {behind('were in it before', before, 'would_get_it', wasIn)} were in it before</>}.
          </p>
          {before > 0 && (
            <fieldset className="mt-2">
              <legend className="font-semibold">
                For {plural(before, 'person', 'people')} who were in it before (
                {numbers.again.map((one) => `${number(one.people)} ${one.words}`).join(', ')})
              </legend>
              {(
                [
                  ['leave_out', 'leave them out'],
                  ['keep', 'add them, with the status they had'],
                  ['reset', 'add them, with a fresh status'],
                ] as const
              ).map(([value, words]) => (
                <label key={value} className="flex gap-2 items-center py-0.5">
                  <input
                    type="radio"
                    name="again"
                    className="radio radio-xs"
                    checked={again === value}
                    onChange={() => setAgain(value)}
                  />
                  {words}
                </label>
              ))}
            </fieldset>
          )}
          {numbers.gaps > 0 && (
            <p className="text-error mt-1">
              {plural(numbers.gaps, 'letter has', 'letters have')} a gap. Each waits until it is filled, and what comes after it.
            </p>
          )}
        </div>
      )}
      <div className="flex justify-end gap-2 mt-4">
        <button type="button" className="btn btn-sm btn-plain" onClick={onClose}>
          Not now
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={!numbers || numbers.letters === 0 || add.isPending}
          onClick={() => numbers && add.mutate(numbers)}
        >
          Add them: {plural(numbers?.letters ?? 0, 'letter')}
        </button>
      </div>
    </Modal>
  )
}
