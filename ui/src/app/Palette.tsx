import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Command } from 'cmdk'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { api, ask } from '../api/client'
import { Modal } from '../parts/Modal'
import { useCreate } from './useCreate'
import { usePostMoves } from './usePost'

const GROUP = '[&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:text-secondary [&_[cmdk-group-heading]]:py-1'
const ITEM = 'px-2 py-1.5 rounded-sm cursor-pointer data-[selected=true]:bg-base-200 flex justify-between'

const TAKEN = '[cmdk-item][data-selected=true]'

const PLACES = [
  { words: 'Today', to: '/' },
  { words: 'People', to: '/people' },
  { words: 'Companies', to: '/companies' },
  { words: 'Lists and filters', to: '/lists' },
  { words: 'Doubles', to: '/doubles' },
  { words: 'Files brought in', to: '/files' },
  { words: 'Bin', to: '/bin' },
  { words: 'Letters', to: '/letters' },
  { words: 'Passages', to: '/passages' },
  { words: 'Pictures', to: '/pictures' },
  { words: 'Practice post', to: '/practice-post' },
  { words: 'Sequences', to: '/sequences' },
  { words: 'Replies', to: '/replies' },
  { words: 'Set aside', to: '/set-aside' },
  { words: 'Results', to: '/results' },
  { words: 'Settings', to: '/settings' },
  { words: 'Sign-in and safety', to: '/settings/sign-in' },
]

/** Finds people, letters, sequences and actions. */
export function Palette({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate()
  const create = useCreate()
  const { post, hold, release } = usePostMoves()
  const [words, setWords] = useState('')
  // Nothing is chosen until somebody typed or moved to it: Enter alone makes no letter.
  const [chosen, setChosen] = useState('')
  const [moved, setMoved] = useState(false)
  const { data, isPlaceholderData: late } = useQuery({
    queryKey: ['search', words],
    queryFn: () => ask(api.GET('/api/search', { params: { query: { words } } })),
    enabled: words.trim().length > 0,
    placeholderData: keepPreviousData,
  })
  const go = (to: string) => {
    onClose()
    navigate(to)
  }
  const actions = [
    { words: 'New letter', run: () => create.letter.mutate({}) },
    { words: 'New sequence', run: () => create.sequence.mutate({}) },
    { words: 'Add person', run: () => navigate('/people?add=1') },
    post?.held
      ? { words: 'Release all post', run: () => release.mutate() }
      : { words: 'Hold all post', run: () => hold.mutate() },
    { words: 'Bring people in from a file', run: () => navigate('/files') },
    ...PLACES.map(({ words: place, to }) => ({ words: `Go to ${place}`, run: () => navigate(to) })),
  ].filter((action) => action.words.toLowerCase().includes(words.toLowerCase()))
  // People who were found can be written to, or added to a sequence, from here.
  const adding = words.trim()
    ? (data?.people ?? []).slice(0, 3).flatMap((person) => [
        { words: `Write to ${person.name}…`, run: () => create.letter.mutate({ audience: { people: [person.id] } }) },
        { words: `Add ${person.name} to a sequence…`, run: () => navigate(`/people/${person.id}?join=1`) },
      ])
    : []
  actions.unshift(...adding)
  const offered = [
    ...(data?.people ?? []).map((one) => `person-${one.id}`),
    ...(data?.letters ?? []).map((one) => `letters-${one.id}`),
    ...(data?.sequences ?? []).map((one) => `sequences-${one.id}`),
    ...actions.map((action) => action.words),
  ]
  // What was typed chooses the first that fits, once that is known.
  const first = late ? '' : (offered[0] ?? '')
  // Only where somebody moved to it stands another: what the list takes up by itself while it fills is nobody's choice.
  const standing = moved && offered.includes(chosen) ? chosen : words.trim() ? first : ''
  return (
    <Modal title="Find" onClose={onClose}>
      <Command
        shouldFilter={false}
        label="Find people, letters, sequences and actions"
        value={standing}
        onValueChange={setChosen}
        onKeyDown={(event) => {
          if (event.key.startsWith('Arrow')) setMoved(true)
          const taken = event.key === 'Tab' && !event.shiftKey && event.currentTarget.querySelector<HTMLElement>(TAKEN)
          if (!taken) return
          event.preventDefault()
          taken.click()
        }}
      >
        <Command.Input
          value={words}
          onValueChange={(typed) => {
            setWords(typed)
            setChosen('')
            setMoved(false)
          }}
          autoFocus
          placeholder="A name, a letter, or what to do"
          className="text-field mb-2"
        />
        <Command.List className="max-h-80 overflow-auto" onPointerMove={() => setMoved(true)}>
          {data && data.people.length > 0 && (
            <Command.Group heading="People" className={GROUP}>
              {data.people.map((person) => (
                <Command.Item
                  key={person.id}
                  value={`person-${person.id}`}
                  disabled={late}
                  onSelect={() => go(`/people/${person.id}`)}
                  className={ITEM}
                >
                  {person.name}
                  <span className="muted">{person.company}</span>
                </Command.Item>
              ))}
            </Command.Group>
          )}
          {(['letters', 'sequences'] as const).map(
            (kind) =>
              data &&
              data[kind].length > 0 && (
                <Command.Group key={kind} heading={kind === 'letters' ? 'Letters' : 'Sequences'} className={GROUP}>
                  {data[kind].map((one) => (
                    <Command.Item
                      key={one.id}
                      value={`${kind}-${one.id}`}
                      disabled={late}
                      onSelect={() => go(`/${kind}/${one.id}`)}
                      className={ITEM}
                    >
                      {one.name}
                    </Command.Item>
                  ))}
                </Command.Group>
              ),
          )}
          {words.trim() && !late && offered.length === 0 && (
            <p role="status" className="muted px-2 py-1.5">
              Nothing has these words.
            </p>
          )}
          {actions.length > 0 && (
            <Command.Group heading="Actions" className={GROUP}>
              {actions.map((action) => (
                <Command.Item
                  key={action.words}
                  value={action.words}
                  onSelect={() => {
                    onClose()
                    action.run()
                  }}
                  className={ITEM}
                >
                  {action.words}
                </Command.Item>
              ))}
            </Command.Group>
          )}
        </Command.List>
      </Command>
    </Modal>
  )
}
