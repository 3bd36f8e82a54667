import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { api, ask } from '../../../api/client'
import { saveFile } from '../../../app/saveFile'
import { MenuList } from '../../../parts/MenuList'
import { Popover } from '../../../parts/Popover'
import { ErrorNote } from '../../../parts/States'

/** What else can be done with a sequence. */
export function SequenceMenu({ id }: { id: number }) {
  const client = useQueryClient()
  const navigate = useNavigate()
  const copy = useMutation({
    mutationFn: () => ask(api.POST('/api/sequences/{id}/copy', { params: { path: { id } } })),
    onSuccess: (made) => {
      client.invalidateQueries({ queryKey: ['sequences'] })
      navigate(`/sequences/${made.id}`)
    },
  })
  const file = useMutation({
    mutationFn: async () =>
      saveFile(await api.GET('/api/sequences/{id}/file', { params: { path: { id } }, parseAs: 'blob' }), 'sequence.json'),
  })
  const error = copy.error ?? file.error
  return (
    <>
      {error && <ErrorNote error={error} />}
      <Popover words="More" label="More" className="btn btn-sm btn-plain">
        {(shut) => (
          <MenuList
            items={[
              { value: 'copy', words: 'Copy: a draft that is laid out like this' },
              { value: 'file', words: 'Take out as a file, with its letters' },
            ]}
            onPick={(act) => {
              shut()
              if (act === 'copy') copy.mutate()
              else file.mutate()
            }}
          />
        )}
      </Popover>
    </>
  )
}
