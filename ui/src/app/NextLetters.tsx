import { Link } from 'react-router'
import { api, ask, type Shape } from '../api/client'
import { OpensPeople } from '../screens/people/behind/OpensPeople'
import { plural } from './format'

/** How many letters go out next, and from how many mailboxes: the people who get them open, and the mailboxes. */
export function NextLetters({
  next,
  between,
  className,
}: {
  next: NonNullable<Shape<'Post'>['next']>
  between: string
  className?: string
}) {
  return (
    <>
      <OpensPeople
        title="The next post"
        count={next.letters}
        letters={next.letters}
        className={className}
        queryKey={['post', 'people']}
        load={(cursor) => ask(api.GET('/api/post/people', { params: { query: { cursor } } }))}
      >
        {plural(next.letters, 'letter')}
      </OpensPeople>{' '}
      {between}{' '}
      <Link to="/settings" className={className}>
        {plural(next.mailboxes, 'mailbox', 'mailboxes')}
      </Link>
    </>
  )
}
