import { mergeAttributes, Node } from '@tiptap/core'
import { type NodeViewProps, NodeViewWrapper, ReactNodeViewRenderer } from '@tiptap/react'
import { useContext } from 'react'
import { Popover } from '../../parts/Popover'
import { FieldsContext } from './fields'

/** A merge field in the text: its name on a chip, with what stands there when it is empty. */
function Chip({ node, updateAttributes, deleteNode }: NodeViewProps) {
  const fields = useContext(FieldsContext)
  const field = fields.find((one) => one.key === node.attrs.field)
  const fallback: string | null = node.attrs.fallback
  const label = field?.label ?? String(node.attrs.field)
  return (
    <NodeViewWrapper as="span" className="whitespace-nowrap" contentEditable={false}>
      <Popover
        words={
          <>
            {label}
            {fallback && <span className="font-normal"> or “{fallback}”</span>}
          </>
        }
        label={`Field ${label}`}
        className="merged cursor-pointer"
      >
        {(shut) => (
          <div className="w-60 p-1">
            <label className="field-label" htmlFor={`fallback-${node.attrs.field}`}>
              When it is empty, write
            </label>
            <input
              id={`fallback-${node.attrs.field}`}
              className="text-field"
              placeholder="nothing: it is a gap"
              defaultValue={fallback ?? ''}
              onBlur={(event) => updateAttributes({ fallback: event.target.value.trim() || null })}
              onKeyDown={(event) => {
                if (event.key === 'Enter') {
                  updateAttributes({ fallback: event.currentTarget.value.trim() || null })
                  shut()
                }
              }}
            />
            <button type="button" className="btn btn-xs btn-plain mt-2" onClick={deleteNode}>
              Take the field out
            </button>
          </div>
        )}
      </Popover>
    </NodeViewWrapper>
  )
}

/** The document node that the core knows as a merge field. */
export const MergeField = Node.create({
  name: 'mergeField',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes: () => ({ field: { default: null }, fallback: { default: null } }),
  parseHTML: () => [
    {
      tag: 'span[data-merge-field]',
      getAttrs: (node) => ({ field: node.getAttribute('data-merge-field'), fallback: node.getAttribute('data-fallback') }),
    },
  ],
  renderHTML: ({ node, HTMLAttributes }) => [
    'span',
    mergeAttributes(HTMLAttributes, { 'data-merge-field': node.attrs.field, 'data-fallback': node.attrs.fallback }),
  ],
  renderText: ({ node }) => `{{${node.attrs.field}${node.attrs.fallback ? `|${node.attrs.fallback}` : ''}}}`,
  addNodeView: () => ReactNodeViewRenderer(Chip, { as: 'span' }),
})
