import { mergeAttributes, Node } from '@tiptap/core'
import { type NodeViewProps, NodeViewWrapper, ReactNodeViewRenderer } from '@tiptap/react'

const WORDS: Record<string, string> = {
  signature: 'The signature of whoever it comes from',
  footer: 'The firm’s postal address and the way out',
}

/** Says what will stand here; what it is depends on who sends the letter. */
function Edge({ node }: NodeViewProps) {
  return (
    <NodeViewWrapper>
      <div
        contentEditable={false}
        className="border border-dashed border-base-300 rounded-sm px-3 py-2 my-2 font-sans text-xs muted"
        data-drag-handle
      >
        {WORDS[node.type.name]}
      </div>
    </NodeViewWrapper>
  )
}

function edge(name: 'signature' | 'footer') {
  return Node.create({
    name,
    group: 'edge',
    atom: true,
    draggable: true,
    parseHTML: () => [{ tag: `div[data-${name}]` }],
    renderHTML: ({ HTMLAttributes }) => ['div', mergeAttributes(HTMLAttributes, { [`data-${name}`]: '' })],
    addNodeView: () => ReactNodeViewRenderer(Edge),
  })
}

/** Where the signature of whoever it comes from stands; without it, at the end. */
export const Signature = edge('signature')

/** Where postal address and way out stand; without it, at the end. */
export const Footer = edge('footer')
