import { useQuery } from '@tanstack/react-query'
import { api, ask, type Shape } from '../../../api/client'

function Part({ part }: { part: Shape<'WhyPart'> }) {
  if (!part.words)
    return (
      <li>
        <span className="muted">
          {part.joined_by === 'and' ? 'all of these' : part.joined_by === 'or' ? 'one of these' : 'none of this'}
        </span>
        <ul className="pl-3 border-l border-base-300">
          {part.parts.map((one, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the parts are known by their place
            <Part key={i} part={one} />
          ))}
        </ul>
      </li>
    )
  return (
    <li className="py-0.5">
      <span className={part.holds ? 'text-success font-semibold' : 'text-error font-semibold'}>{part.holds ? 'yes' : 'no'}</span>{' '}
      {part.words}
      {part.actual && <span className="muted"> · {part.actual}</span>}
    </li>
  )
}

/** Why one person is in, or is not: each part with what the record says. */
export function WhyNote({ id, audience }: { id: number; audience: Shape<'Audience'> }) {
  const { data: why } = useQuery({
    queryKey: ['person', id, 'why', audience],
    queryFn: ({ signal }) => ask(api.POST('/api/people/{id}/why', { params: { path: { id } }, body: { audience }, signal })),
  })
  if (!why || (why.parts[0]?.parts.length === 0 && !why.parts[0]?.words && why.matches && !why.reason)) return null
  return (
    <section aria-label="Why" className="border-t border-base-300 pt-2">
      <h3 className="font-serif text-base mb-1">{why.matches ? 'Why they match' : 'Why they do not match'}</h3>
      <ul>
        {why.parts.map((part, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the parts are known by their place
          <Part key={i} part={part} />
        ))}
        {why.by_hand && <li>chosen by hand</li>}
        {why.left_out && <li className="text-error">left out by hand</li>}
        {why.without.map((part, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the parts are known by their place
          <Part key={`without${i}`} part={part} />
        ))}
      </ul>
      {why.matches && (
        <p className="mt-1">
          {why.reason ? <span className="text-error">Would not get a letter: {why.reason}.</span> : 'Would get a letter.'}
        </p>
      )}
    </section>
  )
}
