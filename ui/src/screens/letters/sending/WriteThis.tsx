import type { Shape } from '../../../api/client'
import { useCreate } from '../../../app/useCreate'
import { MenuList } from '../../../parts/MenuList'
import { Popover } from '../../../parts/Popover'

/** Writes a letter of the library to somebody: itself, or a copy of it where others have it too. */
export function WriteThis({ letter }: { letter: Shape<'Letter'> }) {
  const { letter: write } = useCreate()
  const words = 'Write this to…'
  if (letter.used_in.length === 0)
    return (
      <button
        type="button"
        className="btn btn-sm btn-primary"
        disabled={write.isPending}
        onClick={() => write.mutate({ letter_id: letter.id })}
      >
        {words}
      </button>
    )
  return (
    <Popover words={words} label={words} className="btn btn-sm btn-primary">
      {(shut) => (
        <MenuList
          items={[
            { value: true, words: 'A copy of it' },
            { value: false, words: 'This letter itself' },
          ]}
          onPick={(copy) => {
            shut()
            write.mutate({ letter_id: letter.id, copy })
          }}
        />
      )}
    </Popover>
  )
}
