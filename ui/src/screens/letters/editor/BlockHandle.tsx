import { NodeSelection } from '@tiptap/pm/state'
import type { Editor } from '@tiptap/react'
import { type RefObject, useEffect, useState } from 'react'
import { Popover } from '../../../parts/Popover'
import { moveBlock } from './moveBlocks'

type Place = { index: number; top: number }

/** The handle beside the block under the pointer: drag it, or open its menu. With the keyboard, Alt and an arrow do the same. */
export function BlockHandle({ editor, around }: { editor: Editor; around: RefObject<HTMLDivElement | null> }) {
  const [place, setPlace] = useState<Place | null>(null)
  useEffect(() => {
    const box = around.current
    if (!box) return
    const follow = (event: MouseEvent) => {
      if (box.querySelector('[role=dialog]')) return
      const blocks = [...editor.view.dom.children] as HTMLElement[]
      const index = blocks.findIndex((block) => {
        const rect = block.getBoundingClientRect()
        return event.clientY >= rect.top - 6 && event.clientY <= rect.bottom + 6
      })
      const block = blocks[index]
      setPlace(
        block && index < editor.state.doc.childCount
          ? { index, top: block.getBoundingClientRect().top - box.getBoundingClientRect().top }
          : null,
      )
    }
    box.addEventListener('mousemove', follow)
    return () => box.removeEventListener('mousemove', follow)
  }, [editor, around])
  if (!place) return null
  const start = () =>
    Array.from({ length: place.index }, (_, i) => editor.state.doc.child(i).nodeSize).reduce((sum, size) => sum + size, 0)
  const acts = [
    { words: 'Move up', run: () => moveBlock(editor, place.index, place.index - 1) },
    { words: 'Move down', run: () => moveBlock(editor, place.index, place.index + 1) },
    {
      words: 'Once more',
      run: () =>
        editor
          .chain()
          .insertContentAt(start() + editor.state.doc.child(place.index).nodeSize, editor.state.doc.child(place.index).toJSON())
          .run(),
    },
    {
      words: 'Take out',
      run: () =>
        editor
          .chain()
          .deleteRange({ from: start(), to: start() + editor.state.doc.child(place.index).nodeSize })
          .focus()
          .run(),
    },
  ]
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the keyboard moves blocks with Alt and an arrow
    <div
      className="absolute left-1.5 font-sans leading-none cursor-grab"
      style={{ top: place.top + 2 }}
      draggable
      onDragStart={(event) => {
        const selection = NodeSelection.create(editor.state.doc, start())
        editor.view.dispatch(editor.state.tr.setSelection(selection))
        const slice = selection.content()
        const { dom, text } = editor.view.serializeForClipboard(slice)
        event.dataTransfer.setData('text/html', dom.innerHTML)
        event.dataTransfer.setData('text/plain', text)
        event.dataTransfer.effectAllowed = 'move'
        editor.view.dragging = { slice, move: true }
      }}
    >
      <Popover
        key={place.index}
        words="⠿"
        label="This block"
        className="muted hover:text-primary cursor-grab px-1 py-0.5 min-h-6"
      >
        {(shut) => (
          <ul className="w-32">
            {acts.map((act) => (
              <li key={act.words}>
                <button
                  type="button"
                  className="block w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200"
                  onClick={() => {
                    shut()
                    act.run()
                    setPlace(null)
                  }}
                >
                  {act.words}
                </button>
              </li>
            ))}
          </ul>
        )}
      </Popover>
    </div>
  )
}
