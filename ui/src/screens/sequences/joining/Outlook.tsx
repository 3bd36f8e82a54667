import { useQuery } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../../api/client'
import { number, plural } from '../../../app/format'
import { ErrorNote } from '../../../parts/States'
import { OpensPeople } from '../../people/behind/OpensPeople'
import type { Kind, Settings } from './rules'

/** Whom a rule would take in, as far as that can be known. */
export function Outlook({ sequence, kind, settings }: { sequence: Shape<'Sequence'>; kind: Kind; settings: Settings }) {
  const body = { kind, settings }
  const path = { params: { path: { id: sequence.id } } }
  const { data, error } = useQuery({
    queryKey: ['joining', sequence.id, 'outlook', body],
    queryFn: ({ signal }) => ask(api.POST('/api/sequences/{id}/joining/outlook', { ...path, body, signal })),
  })
  if (error) return <ErrorNote error={error} />
  if (!data?.about) return null
  const people = data.people ?? 0
  const behind = (part: { would_get_it?: boolean }) => ({
    queryKey: ['joining', sequence.id, 'outlook people', body, part],
    load: (cursor?: string) =>
      ask(
        api.POST('/api/sequences/{id}/joining/outlook/people', {
          ...path,
          body: { ...body, ...part, ...(cursor ? { cursor } : {}) },
        }),
      ),
  })
  return (
    <p aria-live="polite" className="bg-base-200 px-3 py-2">
      <OpensPeople title={LOOKS[data.about].title} count={people} {...behind({})}>
        {plural(people, 'person', 'people')}
      </OpensPeople>{' '}
      {LOOKS[data.about].words(people)}
      {people > 0 && (
        <>
          ;{' '}
          <OpensPeople
            title="May be written to and are not in it yet"
            count={data.would_get_it ?? 0}
            {...behind({ would_get_it: true })}
          >
            {number(data.would_get_it ?? 0)}
          </OpensPeople>{' '}
          of them may be written to and are not in it yet
        </>
      )}
      .
    </p>
  )
}

const LOOKS = {
  now: { title: 'Fit it now', words: (people: number) => (people === 1 ? 'fits it now' : 'fit it now') },
  last_days: { title: 'Would have joined in the last 30 days', words: () => 'would have joined in the last 30 days' },
  next_days: { title: 'Would join in the next 30 days', words: () => 'would join in the next 30 days' },
}
