import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import { api, ask } from '../../../api/client'
import { MenuList } from '../../../parts/MenuList'
import { Popover } from '../../../parts/Popover'

function Search({ onPick }: { onPick: (id: number) => void }) {
  const [words, setWords] = useState('')
  const { data } = useQuery({
    queryKey: ['people', 'find', words],
    queryFn: () => ask(api.POST('/api/people/search', { body: { words, limit: 12 } })),
    placeholderData: keepPreviousData,
  })
  return (
    <div className="w-64">
      <input
        className="text-field mb-2"
        placeholder="A name or a company"
        aria-label="Whose letter"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      <MenuList
        className="w-full"
        items={(data?.people ?? []).map((person) => ({
          value: person.id,
          words: (
            <>
              {person.name} {person.company && <span className="muted text-xs">{person.company}</span>}
            </>
          ),
        }))}
        onPick={onPick}
      />
    </div>
  )
}

/** Whose letter is shown; opens a search for somebody else. */
export function FindPerson({ words, onPick }: { words: ReactNode; onPick: (id: number) => void }) {
  return (
    <Popover
      words={words}
      label="Whose letter"
      className="text-left truncate max-w-52 underline decoration-dotted underline-offset-4 cursor-pointer min-h-6"
    >
      {(shut) => (
        <Search
          onPick={(id) => {
            onPick(id)
            shut()
          }}
        />
      )}
    </Popover>
  )
}
