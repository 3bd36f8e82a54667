import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { api, ask, type Shape } from '../../../api/client'
import { MenuList } from '../../../parts/MenuList'
import { Popover } from '../../../parts/Popover'
import { useWriteAgain } from '../../results/WriteAgain'
import type { Draft } from '../saving/draft'
import { type Format, saveLetter, TakeOut } from './TakeOut'

const FORMATS = [
  { value: 'json', words: 'Take out as JSON: all of it' },
  // These three are text for other programs; TakeOut says what they cannot carry.
  { value: 'eml', words: 'Take out as a message (.eml)' },
  { value: 'html', words: 'Take out as HTML' },
  { value: 'md', words: 'Take out as Markdown' },
] as const

/** Makes a copy and goes there, or where it is wanted. */
export function useCopy(letterId: number, onMade?: (id: number) => void) {
  const client = useQueryClient()
  const navigate = useNavigate()
  return useMutation({
    mutationFn: () => ask(api.POST('/api/letters/{id}/copy', { params: { path: { id: letterId } }, body: {} })),
    onSuccess: (made) => {
      client.invalidateQueries({ queryKey: ['letters'] })
      client.invalidateQueries({ queryKey: ['catalogue'] })
      if (onMade) onMade(made.id)
      else navigate(`/letters/${made.id}`)
    },
  })
}

/** What else can be done with a letter. */
export function LetterMenu({ letter, onChange }: { letter: Shape<'Letter'>; onChange: (draft: Draft) => void }) {
  const copy = useCopy(letter.id)
  const again = useWriteAgain()
  const [taking, setTaking] = useState<Format | null>(null)
  type Act = 'copy' | 'archive' | 'again' | (typeof FORMATS)[number]['value']
  const items: { value: Act; words: string }[] = [
    { value: 'copy', words: 'Copy' },
    { value: 'again', words: 'Write to those who had it and stayed quiet' },
    { value: 'archive', words: letter.archived ? 'Back from the archive' : 'Put into the archive' },
    ...FORMATS,
  ]
  return (
    <>
      {taking && <TakeOut letterId={letter.id} format={taking} onClose={() => setTaking(null)} />}
      <Popover words="More" label="More" className="btn btn-sm btn-plain">
        {(shut) => (
          <MenuList
            items={items}
            onPick={(act) => {
              shut()
              if (act === 'copy') copy.mutate()
              else if (act === 'again') again.mutate({ letter: letter.id })
              else if (act === 'archive') onChange({ archived: !letter.archived })
              else if (act === 'json') saveLetter(letter.id, act)
              else setTaking(act)
            }}
          />
        )}
      </Popover>
    </>
  )
}
