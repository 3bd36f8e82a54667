import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { api, ask, type Shape } from '../../../api/client'
import { MenuList } from '../../../parts/MenuList'
import { Popover } from '../../../parts/Popover'
import { useWriteAgain } from '../../results/WriteAgain'
import type { Draft } from '../saving/draft'

const FORMATS = [
  { value: 'json', words: 'Take out as JSON: all of it' },
  // Text for some people stands between marks in these three, since they know no conditions.
  { value: 'eml', words: 'Take out as a message (.eml), its files with it' },
  { value: 'html', words: 'Take out as HTML, without its files' },
  { value: 'md', words: 'Take out as Markdown, without its files' },
] as const

/** Makes a copy and goes there. */
export function useCopy(letterId: number) {
  const client = useQueryClient()
  const navigate = useNavigate()
  return useMutation({
    mutationFn: () => ask(api.POST('/api/letters/{id}/copy', { params: { path: { id: letterId } }, body: {} })),
    onSuccess: (made) => {
      client.invalidateQueries({ queryKey: ['letters'] })
      client.invalidateQueries({ queryKey: ['catalogue'] })
      navigate(`/letters/${made.id}`)
    },
  })
}

/** What else can be done with a letter. */
export function LetterMenu({ letter, onChange }: { letter: Shape<'Letter'>; onChange: (draft: Draft) => void }) {
  const copy = useCopy(letter.id)
  const again = useWriteAgain()
  type Act = 'copy' | 'archive' | 'again' | (typeof FORMATS)[number]['value']
  const items: { value: Act; words: string }[] = [
    { value: 'copy', words: 'Copy' },
    { value: 'again', words: 'Write to those who had it and stayed quiet' },
    { value: 'archive', words: letter.archived ? 'Back from the archive' : 'Put into the archive' },
    ...FORMATS,
  ]
  return (
    <Popover words="More" label="More" className="btn btn-sm btn-plain">
      {(shut) => (
        <MenuList
          items={items}
          onPick={(act) => {
            shut()
            if (act === 'copy') copy.mutate()
            else if (act === 'again') again.mutate({ letter: letter.id })
            else if (act === 'archive') onChange({ archived: !letter.archived })
            else window.location.assign(`/api/letters/${letter.id}/file?format=${act}`)
          }}
        />
      )}
    </Popover>
  )
}
