import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, ask } from '../../api/client'
import { plural, shortDate } from '../../app/format'
import { useKeys } from '../../app/keys'
import { useCreate } from '../../app/useCreate'
import { useNow } from '../../app/usePost'
import { Header } from '../../parts/Header'
import { Empty, ErrorNote, Loading } from '../../parts/States'

/** All letters by their own names, newest change first. */
export function LettersScreen() {
  const now = useNow()
  const create = useCreate()
  const [words, setWords] = useState('')
  const { data, error, refetch } = useQuery({
    queryKey: ['letters'],
    queryFn: async () => (await ask(api.GET('/api/letters'))).letters,
  })
  useKeys([{ key: 'n', words: 'New letter', run: () => create.letter.mutate() }])
  const shown = data?.filter((letter) => `${letter.name} ${letter.subject}`.toLowerCase().includes(words.toLowerCase()))
  return (
    <>
      <Header
        title="Letters"
        aside={<span className="muted">{data && plural(data.length, 'letter')}</span>}
        actions={
          <>
            <input
              type="search"
              className="text-field !w-52"
              placeholder="Name or subject"
              aria-label="Find a letter"
              value={words}
              onChange={(event) => setWords(event.target.value)}
            />
            <button type="button" className="btn btn-sm btn-primary" onClick={() => create.letter.mutate()}>
              New letter
            </button>
          </>
        }
      />
      {error && <ErrorNote error={error} retry={refetch} />}
      {!data && !error && <Loading />}
      {shown?.length === 0 && (
        <Empty>{words ? 'No letter of that name.' : 'No letters yet. The first one begins with “New letter”.'}</Empty>
      )}
      {shown && shown.length > 0 && (
        <table className="plain w-full">
          <thead>
            <tr>
              <th>Name and subject</th>
              <th>Used in</th>
              <th className="!text-right">Sent</th>
              <th className="!text-right">Opened</th>
              <th className="!text-right">Replied</th>
              <th>Written by</th>
              <th>Changed</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((letter) => (
              <tr key={letter.id} className="row-link">
                <td className="max-w-96">
                  <Link to={`/letters/${letter.id}`} className="block">
                    <span className="font-serif text-base">{letter.name}</span>
                    <span className="block muted text-xs truncate">{letter.subject || 'no subject yet'}</span>
                  </Link>
                </td>
                <td className="muted text-xs">{letter.used_in.map((one) => one.name).join(', ') || 'nowhere yet'}</td>
                <td className="text-right">{letter.sent}</td>
                <td className="text-right">{letter.opened}</td>
                <td className="text-right">{letter.replied}</td>
                <td>{letter.author}</td>
                <td className="muted whitespace-nowrap">{shortDate(letter.updated_at, now)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  )
}
