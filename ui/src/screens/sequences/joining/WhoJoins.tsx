import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { whileAway } from '../../../app/away'
import { plural } from '../../../app/format'
import { stale } from '../../../app/stale'
import { ErrorNote } from '../../../parts/States'
import { OpensPeople } from '../../people/behind/OpensPeople'
import { LOOKS_MS } from '../useSequence'
import { RuleDialog } from './RuleDialog'

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

/** Who joins by themselves: a sentence for each rule, on or off, with its numbers. */
export function WhoJoins({ sequence }: { sequence: Shape<'Sequence'> }) {
  const client = useQueryClient()
  const [open, setOpen] = useState<Rule | 'new' | null>(null)
  const { data } = useQuery({
    queryKey: ['joining', sequence.id],
    queryFn: () => ask(api.GET('/api/sequences/{id}/joining', { params: { path: { id: sequence.id } } })),
    refetchInterval: ({ state }) => whileAway(state.error) || (sequence.state === 'running' && LOOKS_MS),
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
  const over = sequence.state === 'stopped' || sequence.state === 'ended'
  if (!data || (over && data.rules.length === 0)) return null
  return (
    <section className="mb-4" aria-label="Who joins by themselves">
      {change.error != null && <ErrorNote error={change.error} />}
      <ul>
        {data.rules.map((rule) => (
          <li key={rule.id} className="flex gap-x-4 py-1 border-b border-base-300/60 items-baseline flex-wrap">
            <input
              type="checkbox"
              className="checkbox checkbox-xs self-center"
              aria-label={`Joins by itself: ${rule.words}`}
              checked={rule.live}
              disabled={change.isPending || over}
              onChange={() => change.mutate(rule)}
            />
            <span className="grow">
              <span className="muted">Joins </span>
              <button type="button" className="word text-left" disabled={over} onClick={() => setOpen(rule)}>
                {rule.words}
              </button>
              <span className="muted">
                , {rule.again_words}
                {!rule.live && ', switched off'}
              </span>
            </span>
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
      {!over && (
        <button type="button" className="quiet-word" onClick={() => setOpen('new')}>
          {data.rules.length === 0 ? 'Nobody joins by themselves. Say who does…' : 'Who else joins by themselves…'}
        </button>
      )}
      {open && <RuleDialog sequence={sequence} rule={open === 'new' ? null : open} onClose={() => setOpen(null)} />}
    </section>
  )
}
