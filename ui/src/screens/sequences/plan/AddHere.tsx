import { useState } from 'react'
import { classes } from '../../../parts/classes'
import { MenuList } from '../../../parts/MenuList'
import { Popover } from '../../../parts/Popover'
import type { Kind, Place } from './edit'

const KINDS: { value: Kind; words: string; about: string }[] = [
  { value: 'letter', words: 'Letter', about: 'an e-mail to each of them' },
  { value: 'task', words: 'Task', about: 'a call, a visit, a card by a colleague' },
  { value: 'change', words: 'Change', about: 'a tag, field, list, owner, stage, status' },
  { value: 'hand_over', words: 'Hand-over', about: 'on into another sequence' },
  { value: 'fork', words: 'Fork', about: 'different ways, by what happens' },
]
const DRAGGED = 'application/x-nimble-step'

/** What makes a card one that can be dragged to another place. */
export const dragging = (id: number) => ({
  draggable: true,
  onDragStart: (event: React.DragEvent) => {
    event.dataTransfer.setData(DRAGGED, String(id))
    event.dataTransfer.effectAllowed = 'move'
  },
})

/** Between two steps: adds one of a kind, or takes in one that is dropped here. */
export function AddHere({
  place,
  behind,
  open,
  onAdd,
  onDrop,
}: {
  place: Place
  /** What stands before it, in words. */
  behind: string
  open: boolean
  onAdd: (kind: Kind, place: Place) => void
  onDrop: (id: number, place: Place) => void
}) {
  const [over, setOver] = useState(false)
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: what is dropped here can be moved with keys too
    <div
      onDragOver={(event) => {
        if (!event.dataTransfer.types.includes(DRAGGED)) return
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        setOver(false)
        const id = Number(event.dataTransfer.getData(DRAGGED))
        if (id) onDrop(id, place)
      }}
      className={classes('h-6 flex items-center pl-2 rounded-sm', over && 'bg-[var(--merged)]')}
    >
      <Popover
        key={String(open)}
        open={open}
        words="+"
        label={`Add a step after ${behind}`}
        className={classes(
          'block w-6 h-6 leading-5 text-center rounded-full border border-base-300 bg-base-100 muted',
          'hover:border-primary hover:text-primary focus-visible:border-primary',
        )}
      >
        {(shut) => (
          <MenuList
            className="w-80"
            items={KINDS.map(({ value, words, about }) => ({
              value,
              words: (
                <>
                  {words} <span className="muted">· {about}</span>
                </>
              ),
            }))}
            onPick={(kind) => {
              shut()
              onAdd(kind, place)
            }}
          />
        )}
      </Popover>
    </div>
  )
}
