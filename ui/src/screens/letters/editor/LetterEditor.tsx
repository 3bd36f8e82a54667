import { useRef } from 'react'
import { Column, Columns, Divider, LetterDocument, LinksRow, Quote, Side } from './blocks'
import { ButtonBlock } from './buttonBlock'
import { ConditionalBlock } from './conditionalBlock'
import { Footer, Signature } from './edges'
import { MoveBlocks } from './moveBlocks'
import { blockOffers, blocksFor, type Choosing } from './offers'
import { PassageBlock } from './passageBlock'
import { PictureBlock } from './pictureBlock'
import { RichText, type RichTextProps } from './RichText'
import { suggesting } from './suggesting'

const BLOCKS = [
  LetterDocument,
  Quote,
  Divider,
  Columns,
  Column,
  LinksRow,
  PictureBlock,
  ButtonBlock,
  PassageBlock,
  ConditionalBlock,
  Side,
  Signature,
  Footer,
  MoveBlocks,
]
const NOTHING_TO_CHOOSE: Choosing = { picture: () => {}, passage: () => {} }

type Props = Omit<RichTextProps, 'blocks'> & { line?: boolean; choosing?: Choosing }

/** A rich text of a letter: its body, or with `line` a single line such as the subject. */
export function LetterEditor({ line = false, choosing, ...text }: Props) {
  const now = useRef(choosing)
  now.current = choosing
  if (line) return <RichText {...text} />
  return (
    <RichText
      {...text}
      blocks={(writing) => [
        ...BLOCKS,
        suggesting('blockMenu', '/', (words) => blocksFor(words, blockOffers(writing(), now.current ?? NOTHING_TO_CHOOSE)), true),
      ]}
    />
  )
}
