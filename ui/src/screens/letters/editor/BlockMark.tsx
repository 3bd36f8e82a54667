import type { Editor } from '@tiptap/react'
import { type RefObject, useContext, useEffect, useState } from 'react'
import { useKeys } from '../../../app/keys'
import { MenuList } from '../../../parts/MenuList'
import { Popover } from '../../../parts/Popover'
import { blockActs } from './blockActs'
import { WritingContext } from './writing'

type Place = { index: number; top: number; height: number }

/** Where the block with the cursor stands on the paper. */
function placeOf(editor: Editor, paper: HTMLElement): Place | null {
  const index = editor.state.selection.$from.index(0)
  const block = editor.view.dom.children[index]
  if (!block || index >= editor.state.doc.childCount) return null
  const [around, own] = [paper.getBoundingClientRect(), block.getBoundingClientRect()]
  return { index, top: own.top - around.top, height: own.height }
}

/**
 * A stroke in the margin beside the block one is in, as one marks a place on paper. It opens what can be done with that block; Alt and
 * an arrow move it as well.
 */
export function BlockMark({ editor, around }: { editor: Editor; around: RefObject<HTMLDivElement | null> }) {
  const [place, setPlace] = useState<Place | null>(null)
  const { within } = useContext(WritingContext)
  useEffect(() => {
    const look = () => setPlace(around.current && placeOf(editor, around.current))
    const events = ['selectionUpdate', 'update', 'focus'] as const
    for (const event of events) editor.on(event, look)
    return () => {
      for (const event of events) editor.off(event, look)
    }
  }, [editor, around])
  useKeys([
    {
      key: 'alt+m',
      words: 'What can be done with this block',
      whileTyping: true,
      run: () => around.current?.querySelector<HTMLElement>('[aria-label="This block"]')?.click(),
    },
  ])
  if (!place) return null
  return (
    <div className="absolute left-3 font-sans leading-none" style={{ top: place.top, height: place.height }}>
      <Popover
        key={place.index}
        words={<span aria-hidden className="block w-0.5 h-full bg-primary/50 group-hover:w-1 group-hover:bg-primary" />}
        label="This block"
        title="What can be done with this block: Alt and M"
        className="group block w-4 h-full min-h-6 cursor-pointer"
        fills
        back={() => editor.commands.focus()}
      >
        {(shut) => (
          <MenuList
            className="w-48"
            items={blockActs(editor, place.index, within).map((act) => ({ value: act.run, words: act.words }))}
            onPick={(run) => {
              shut()
              run()
            }}
          />
        )}
      </Popover>
    </div>
  )
}
