import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../api/client'
import { plural } from '../../app/format'
import { stale } from '../../app/stale'
import { ErrorNote } from '../../parts/States'
import { OpensPeople } from '../people/behind/OpensPeople'

type Rule = Shape<'JoinRule'>

/** How many joined by a rule, or would and wait; opens them. */
export function JoinedBy({
  rule,
  part,
  count,
  words,
}: {
  rule: number
  part: 'joined' | 'waiting'
  count: number
  words: string
}) {
  return (
    <OpensPeople
      title={`${part === 'joined' ? 'Joined' : 'Waiting to join'}: ${words}`}
      count={count}
      queryKey={['joining', rule, part]}
      load={(cursor) => ask(api.GET('/api/join-rules/{id}/people', { params: { path: { id: rule }, query: { part, cursor } } }))}
    >
      {plural(count, 'person', 'people')}
    </OpensPeople>
  )
}

/** The rules by which people join by themselves, each on or off. */
export function WhoJoins({ sequenceId }: { sequenceId: number }) {
  const client = useQueryClient()
  const { data } = useQuery({
    queryKey: ['joining', sequenceId],
    queryFn: () => ask(api.GET('/api/sequences/{id}/joining', { params: { path: { id: sequenceId } } })),
  })
  const change = useMutation({
    mutationFn: (rule: Rule) =>
      ask(
        api.PATCH('/api/join-rules/{id}', {
          params: { path: { id: rule.id } },
          body: { version: rule.version, live: !rule.live },
        }),
      ),
    onSettled: () => stale(client, 'joining'),
  })
  if (!data?.rules.length) return null
  return (
    <section className="mt-6" aria-labelledby="who-joins">
      <h2 id="who-joins" className="field-label">
        Who joins by themselves
      </h2>
      {change.error != null && <ErrorNote error={change.error} />}
      <ul>
        {data.rules.map((rule) => (
          <li key={rule.id} className="flex gap-4 py-2 border-b border-base-300/60 items-baseline">
            <label className="flex gap-2 items-baseline grow">
              <input
                type="checkbox"
                className="checkbox checkbox-xs self-center"
                checked={rule.live}
                disabled={change.isPending}
                onChange={() => change.mutate(rule)}
              />
              <span>
                {rule.words} <span className="muted">({rule.again_words})</span>
              </span>
            </label>
            {rule.waiting > 0 && (
              <span className="text-error">
                <JoinedBy rule={rule.id} part="waiting" count={rule.waiting} words={rule.words} /> waiting
              </span>
            )}
            <span className="muted">
              <JoinedBy rule={rule.id} part="joined" count={rule.joined} words={rule.words} /> so far
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
