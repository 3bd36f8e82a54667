import { useQuery } from '@tanstack/react-query'
import { useDeferredValue } from 'react'
import { Link } from 'react-router'
import { api, ask } from '../../api/client'

const LIKE_ONE = /^[^\s@]+@[^\s@]+\.[^\s@]{2,}$/

/** Says, while an address is typed, who has it already. */
export function AddressTaken({ email, except }: { email: string; except?: number }) {
  const typed = useDeferredValue(email.trim())
  const { data } = useQuery({
    queryKey: ['people', 'with address', typed],
    queryFn: ({ signal }) =>
      ask(
        api.POST('/api/people/search', {
          body: { condition: { field: 'person.email', is: 'one_of', value: [typed] }, limit: 3 },
          signal,
        }),
      ),
    enabled: LIKE_ONE.test(typed),
  })
  const others = data?.people.filter((person) => person.id !== except) ?? []
  if (others.length === 0 || !LIKE_ONE.test(typed)) return null
  return (
    <p role="status" className="text-accent text-xs mt-1">
      {others.map((person, i) => (
        <span key={person.id}>
          {i > 0 && ', '}
          <Link to={`/people/${person.id}`} className="underline underline-offset-2">
            {person.name}
          </Link>
        </span>
      ))}{' '}
      {others.length === 1 ? 'has' : 'have'} this address already.
    </p>
  )
}
