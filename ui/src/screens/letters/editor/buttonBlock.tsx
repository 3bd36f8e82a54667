import { mergeAttributes, Node } from '@tiptap/core'
import { NodeViewContent, type NodeViewProps, NodeViewWrapper, ReactNodeViewRenderer } from '@tiptap/react'
import { Popover } from '../../../parts/Popover'
import { WordsWithFields } from './WordsWithFields'

function Button({ node, updateAttributes, deleteNode }: NodeViewProps) {
  const nowhere = (node.attrs.href ?? []).length === 0
  return (
    <NodeViewWrapper>
      <div className="flex items-center gap-3 my-3">
        <NodeViewContent className="letter-button" />
        <span contentEditable={false} className="font-sans text-xs">
          <Popover
            words={nowhere ? 'Leads where?' : 'Leads to…'}
            label="Address of the button"
            className={nowhere ? 'text-error underline min-h-6' : 'quiet-word'}
          >
            {() => (
              <div className="w-80 p-1">
                <p className="field-label">The button leads to</p>
                <WordsWithFields
                  label="Address"
                  nodes={node.attrs.href ?? []}
                  placeholder="https://"
                  onChange={(href) => updateAttributes({ href })}
                />
                <p className="muted text-xs mt-1">A field may stand in it: type {'{{'}.</p>
                <button type="button" className="btn btn-xs btn-plain mt-2" onClick={deleteNode}>
                  Take the button out
                </button>
              </div>
            )}
          </Popover>
        </span>
      </div>
    </NodeViewWrapper>
  )
}

/** A button: its words are typed in place, its address is set beside it. */
export const ButtonBlock = Node.create({
  name: 'button',
  group: 'block',
  content: 'inline*',
  marks: '',
  defining: true,
  addAttributes: () => ({ href: { default: [] } }),
  parseHTML: () => [{ tag: 'div[data-button]' }],
  renderHTML: () => ['div', mergeAttributes({ 'data-button': '' }), 0],
  addNodeView: () => ReactNodeViewRenderer(Button),
})
