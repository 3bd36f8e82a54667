import { useQuery } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../../api/client'
import { Outlook } from '../joining/Outlook'
import type { Kind } from '../joining/rules'

/** By which rules people join a sequence after its start, and how many that may be. */
export function ByRules({ sequence }: { sequence: Shape<'Sequence'> }) {
  const { data } = useQuery({
    queryKey: ['joining', sequence.id],
    queryFn: () => ask(api.GET('/api/sequences/{id}/joining', { params: { path: { id: sequence.id } } })),
  })
  const live = data?.rules.filter((rule) => rule.live) ?? []
  if (live.length === 0) return null
  return (
    <section className="mb-3" aria-label="Who joins later">
      <p className="font-serif text-lg leading-7">People join by its rules:</p>
      <ul>
        {live.map((rule) => (
          <li key={rule.id} className="mt-2">
            <p className="mb-1 first-letter:uppercase">{rule.words}</p>
            <Outlook sequence={sequence} kind={rule.kind as Kind} settings={rule.settings} />
          </li>
        ))}
      </ul>
    </section>
  )
}
