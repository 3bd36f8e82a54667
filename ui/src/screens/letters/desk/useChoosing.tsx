import type { Editor, JSONContent } from '@tiptap/react'
import { type ReactNode, useState } from 'react'
import type { Choosing } from '../editor/offers'
import { PassagePick } from './PassagePick'
import { PicturePick } from './PicturePick'

/** Choosing a picture or a passage that then stands where the cursor is: what the editor's menus call, and the dialogs. */
export function useChoosing(editor: Editor | null): { choosing: Choosing; dialogs: ReactNode } {
  const [open, setOpen] = useState<'picture' | 'passage' | null>(null)
  const put = (content: JSONContent) => {
    setOpen(null)
    editor?.chain().focus().insertContent(content).run()
  }
  const close = () => setOpen(null)
  return {
    choosing: { picture: () => setOpen('picture'), passage: () => setOpen('passage') },
    dialogs: (
      <>
        {open === 'picture' && (
          <PicturePick
            onClose={close}
            onPick={(picture) => put({ type: 'picture', attrs: { picture_id: picture.id, alt: [], href: [], width: 100 } })}
          />
        )}
        {open === 'passage' && (
          <PassagePick onClose={close} onPick={(passage) => put({ type: 'passage', attrs: { passage_id: passage.id } })} />
        )}
      </>
    ),
  }
}
