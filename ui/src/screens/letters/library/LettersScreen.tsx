import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Star } from 'lucide-react'
import { useState } from 'react'
import { Link } from 'react-router'
import { api, ask, type Shape } from '../../../api/client'
import { number, plural, shortDate } from '../../../app/format'
import { useKeys } from '../../../app/keys'
import { useCatalogue } from '../../../app/useCatalogue'
import { useCreate } from '../../../app/useCreate'
import { useInAddress } from '../../../app/useInAddress'
import { useNow } from '../../../app/usePost'
import { Header } from '../../../parts/Header'
import { Segments } from '../../../parts/Segments'
import { Empty, ErrorNote, Loading } from '../../../parts/States'
import { OpensPeople } from '../../people/behind/OpensPeople'
import { LetterPlaces } from './LetterPlaces'
import { NewLetter } from './NewLetter'
import { useLetterFigures, useLetters } from './useLetters'

type Row = Shape<'LetterRow'>
type Counts = Map<number, Shape<'LetterFigures'>>
const ALL = { q: '', category: '', show: 'kept' }

function Favourite({ letter }: { letter: Row }) {
  const client = useQueryClient()
  const keep = useMutation({
    mutationFn: () =>
      ask(
        api.PUT('/api/letters/{id}/favourite', { params: { path: { id: letter.id } }, body: { favourite: !letter.favourite } }),
      ),
    onSettled: () => client.invalidateQueries({ queryKey: ['letters'] }),
  })
  return (
    <button
      type="button"
      aria-pressed={letter.favourite}
      aria-label={`Keep ${letter.name} at hand`}
      className={`min-h-6 min-w-6 ${letter.favourite ? 'text-accent' : 'text-base-300 hover:text-accent'}`}
      onClick={() => keep.mutate()}
    >
      <Star className="mark" fill={letter.favourite ? 'currentColor' : 'none'} aria-hidden />
    </button>
  )
}

/** How often something happened to a letter, which opens the people. */
function Figure({ letter, figure, counts }: { letter: Row; figure: 'sent' | 'opened' | 'replied'; counts?: Counts }) {
  const titles = { sent: 'had', opened: 'opened', replied: 'replied to' }
  if (!counts) return <td />
  const count = counts.get(letter.id)?.[figure] ?? 0
  return (
    <td className="text-right">
      <OpensPeople
        title={`They ${titles[figure]} “${letter.name}”`}
        count={count}
        letters={count}
        queryKey={['letter-figure', letter.id, figure]}
        load={(cursor) =>
          ask(api.GET('/api/letters/{id}/figures/people', { params: { path: { id: letter.id }, query: { figure, cursor } } }))
        }
      >
        {number(count)}
      </OpensPeople>
    </td>
  )
}

/** All letters by their own names, favourites first, then the newest change. */
export function LettersScreen() {
  const now = useNow()
  const { data: catalogue } = useCatalogue()
  const [{ q: words, category, show }, setShown] = useInAddress(ALL)
  const [making, setMaking] = useState(false)
  const { data, error, refetch } = useLetters(words.trim(), show === 'archive')
  const { data: counts, error: uncounted, refetch: countAgain } = useLetterFigures()
  const create = useCreate()
  useKeys([
    { key: 'n', words: 'New letter', leaves: true, run: () => create.letter.mutate({}) },
    { key: 'b', words: 'Begin a letter with…', run: () => setMaking(true) },
  ])
  const categories = [...new Set((data ?? []).map((letter) => letter.category).filter((one) => one != null))].sort()
  const shown = data
    ?.filter((letter) => !category || letter.category === category)
    .sort((one, other) => Number(other.favourite) - Number(one.favourite))
  const languages = catalogue?.fields.find((field) => field.key === 'person.language')?.choices
  const kind = (letter: Row) =>
    [
      letter.manner,
      letter.language !== 'en' && languages?.find((one) => one.value === letter.language)?.words,
      letter.about === 'deal' && 'for a deal',
    ]
      .filter(Boolean)
      .join(', ')
  return (
    <>
      <Header
        title="Letters"
        aside={<span className="muted">{data && plural(data.length, 'letter')}</span>}
        actions={
          <>
            <input
              type="search"
              className="text-field !w-56"
              placeholder="A word in name or text"
              aria-label="Find a letter"
              value={words}
              onChange={(event) => setShown({ q: event.target.value })}
            />
            <button type="button" className="btn btn-sm btn-plain" onClick={() => setMaking(true)}>
              Begin with…
            </button>
            <button
              type="button"
              className="btn btn-sm btn-primary"
              disabled={create.letter.isPending}
              onClick={() => create.letter.mutate({})}
            >
              New letter
            </button>
          </>
        }
      />
      <LetterPlaces />
      <div className="flex gap-3 items-center mb-1">
        <Segments
          label="Which letters"
          chosen={show}
          onChoose={(one) => setShown({ show: one })}
          options={[
            { value: 'kept', words: 'In use' },
            { value: 'archive', words: 'Archive' },
          ]}
        />
        {categories.length > 0 && (
          <select
            className="select select-xs w-44 bg-transparent"
            aria-label="Category"
            value={category}
            onChange={(event) => setShown({ category: event.target.value })}
          >
            <option value="">every category</option>
            {categories.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        )}
      </div>
      {error && <ErrorNote error={error} retry={refetch} />}
      {create.letter.error && <ErrorNote error={create.letter.error} />}
      {uncounted && <ErrorNote error={uncounted} retry={countAgain} />}
      {!data && !error && <Loading />}
      {shown?.length === 0 && (
        <Empty>
          {words || category
            ? 'No letter has these words.'
            : show === 'archive'
              ? 'Nothing is in the archive.'
              : 'No letters yet. The first one begins with “New letter”.'}
        </Empty>
      )}
      {shown && shown.length > 0 && (
        <table className="plain w-full">
          <thead>
            <tr>
              <th className="w-7">
                <span className="sr-only">At hand</span>
              </th>
              <th>Name and subject</th>
              <th>Category</th>
              <th>Manner</th>
              <th>Used in</th>
              <th className="!text-right">Sent</th>
              <th className="!text-right">Opened</th>
              <th className="!text-right">Replied</th>
              <th>Changed</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((letter) => (
              <tr key={letter.id} className="row-link">
                <td className="!pr-0">
                  <Favourite letter={letter} />
                </td>
                <td className="max-w-80">
                  <Link to={`/letters/${letter.id}`} className="block">
                    <span className="font-serif text-base">{letter.name}</span>
                    <span className="block muted text-xs truncate">{letter.subject || 'no subject yet'}</span>
                  </Link>
                </td>
                <td className="text-xs">{letter.category ?? <span className="muted">none</span>}</td>
                <td className="text-xs">{kind(letter)}</td>
                <td className="muted text-xs max-w-44">{letter.used_in.map((one) => one.name).join(', ') || 'nowhere yet'}</td>
                <Figure letter={letter} figure="sent" counts={counts} />
                <Figure letter={letter} figure="opened" counts={counts} />
                <Figure letter={letter} figure="replied" counts={counts} />
                <td className="muted whitespace-nowrap text-xs">
                  {shortDate(letter.updated_at, now)}
                  <span className="block">{letter.author}</span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {making && <NewLetter onClose={() => setMaking(false)} />}
    </>
  )
}
