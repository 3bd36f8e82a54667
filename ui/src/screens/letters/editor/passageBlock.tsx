import { mergeAttributes, Node } from '@tiptap/core'
import { type NodeViewProps, NodeViewWrapper, ReactNodeViewRenderer } from '@tiptap/react'
import { Link } from 'react-router'
import { classes } from '../../../parts/classes'
import { usePassages } from '../desk/usePassages'

function Passage({ node, deleteNode, selected }: NodeViewProps) {
  const { data: passages } = usePassages()
  const passage = passages?.find((one) => one.id === node.attrs.passage_id)
  const languages = Object.keys(passage?.documents ?? {}).length
  return (
    <NodeViewWrapper>
      <div
        contentEditable={false}
        data-drag-handle
        className={classes(
          'border-l-2 border-primary bg-[var(--merged)] px-3 py-2 my-2 font-sans text-[13px]',
          selected ? 'outline outline-primary' : '',
        )}
      >
        <p className="flex gap-2 !mb-1">
          <strong className="font-semibold grow">
            Passage “{passage?.name ?? '…'}”{languages > 1 && ` in ${languages} languages`}
          </strong>
          <Link to="/passages" className="text-primary underline">
            Change it
          </Link>
          <button type="button" className="underline cursor-pointer" onClick={deleteNode}>
            Take out
          </button>
        </p>
        <p className="font-serif text-base !mb-0">{passage?.words || 'There is nothing in it yet.'}</p>
      </div>
    </NodeViewWrapper>
  )
}

/** A text kept for reuse; it is changed in one place. */
export const PassageBlock = Node.create({
  name: 'passage',
  group: 'block',
  atom: true,
  draggable: true,
  addAttributes: () => ({
    passage_id: { default: null, parseHTML: (node) => Number(node.getAttribute('data-passage')) || null },
  }),
  parseHTML: () => [{ tag: 'div[data-passage]' }],
  renderHTML: ({ node }) => ['div', mergeAttributes({ 'data-passage': node.attrs.passage_id })],
  addNodeView: () => ReactNodeViewRenderer(Passage),
})
