import { type Editor, mergeAttributes, Node } from '@tiptap/core'
import { NodeSelection } from '@tiptap/pm/state'
import { type NodeViewProps, NodeViewWrapper, ReactNodeViewRenderer } from '@tiptap/react'
import { useContext } from 'react'
import { number } from '../../../app/format'
import { Popover } from '../../../parts/Popover'
import { ReadersBehind } from '../reading/ReadersBehind'
import { type AudienceCounts, WritingContext } from './writing'

function Without({ field, label, audience }: { field: string; label: string; audience: AudienceCounts | undefined }) {
  const count = audience?.without[field]
  if (!audience || count == null) return null
  return (
    <p className={`text-xs mb-2 ${count > 0 ? 'text-accent' : 'muted'}`}>
      <ReadersBehind
        letterId={audience.letterId}
        sequenceId={audience.sequenceId}
        asked={{ without: field }}
        title={`Nothing for ${label}`}
        count={count}
      >
        {count === 0 ? 'Nobody' : `${number(count)} of ${number(audience.total)}`}
      </ReadersBehind>{' '}
      among {audience.words} {count === 1 || count === 0 ? 'has' : 'have'} nothing here
      {count === 0 ? ' missing' : ''}.
    </p>
  )
}

/** A merge field in the text: its name on a chip, how it is written, and what stands there when it is empty. */
function Chip({ node, editor, getPos, updateAttributes, deleteNode, selected }: NodeViewProps) {
  const { fields, audience } = useContext(WritingContext)
  const key = String(node.attrs.field)
  const field = fields.find((one) => one.key === key)
  const fallback: string | null = node.attrs.fallback
  const form: string | null = node.attrs.form
  const label = field?.label ?? key
  const formWords = field?.forms.find((one) => one.form === form)?.words
  return (
    <NodeViewWrapper as="span" className="whitespace-nowrap" contentEditable={false}>
      <Popover
        words={
          <>
            {label}
            {formWords && <span className="font-normal"> as {formWords}</span>}
            {fallback && <span className="font-normal"> or “{fallback}”</span>}
          </>
        }
        label={`Field ${label}`}
        untabbed
        back={() => editor.commands.focus((getPos() ?? 0) + node.nodeSize)}
        className={`merged cursor-pointer ${selected ? 'outline outline-primary' : ''} ${field ? '' : '!text-error'}`}
      >
        {(shut) => (
          <div className="w-64 p-1 whitespace-normal">
            {!field && <p className="text-error text-xs mb-2">This letter cannot have this field.</p>}
            {field?.retired && (
              <p className="text-accent text-xs mb-2">This field has been retired; it still says what it knows.</p>
            )}
            <Without field={key} label={label} audience={audience} />
            <label className="field-label" htmlFor={`fallback-${key}`}>
              When it is empty, write
            </label>
            <input
              id={`fallback-${key}`}
              data-first
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
            {field && field.forms.length > 0 && (
              <label className="block mt-2">
                <span className="field-label">Written as</span>
                <select
                  className="select select-sm w-full bg-[var(--sheet)]"
                  value={form ?? ''}
                  onChange={(event) => updateAttributes({ form: event.target.value || null })}
                >
                  <option value="">as it is</option>
                  {field.forms.map((one) => (
                    <option key={one.form} value={one.form}>
                      {one.words}
                    </option>
                  ))}
                </select>
              </label>
            )}
            <button type="button" className="btn btn-xs btn-plain mt-3" onClick={deleteNode}>
              Take the field out
            </button>
          </div>
        )}
      </Popover>
    </NodeViewWrapper>
  )
}

/** Opens the chip that is chosen in the text, as a click on it does. */
function openChosen({ editor }: { editor: Editor }): boolean {
  const { selection } = editor.state
  if (!(selection instanceof NodeSelection) || selection.node.type.name !== 'mergeField') return false
  const chip = editor.view.nodeDOM(selection.from)
  if (!(chip instanceof HTMLElement)) return false
  chip.querySelector('button')?.click()
  return true
}

/** The document node that the core knows as a merge field. */
export const MergeField = Node.create({
  name: 'mergeField',
  group: 'inline',
  inline: true,
  atom: true,
  addAttributes: () => ({
    field: { default: null, parseHTML: (node) => node.getAttribute('data-merge-field') },
    fallback: { default: null, parseHTML: (node) => node.getAttribute('data-fallback') },
    form: { default: null, parseHTML: (node) => node.getAttribute('data-form') },
  }),
  parseHTML: () => [{ tag: 'span[data-merge-field]' }],
  renderHTML: ({ node, HTMLAttributes }) => [
    'span',
    mergeAttributes(HTMLAttributes, {
      'data-merge-field': node.attrs.field,
      'data-fallback': node.attrs.fallback,
      'data-form': node.attrs.form,
    }),
  ],
  renderText: ({ node }) => `{{${node.attrs.field}${node.attrs.fallback ? `|${node.attrs.fallback}` : ''}}}`,
  addNodeView: () => ReactNodeViewRenderer(Chip, { as: 'span' }),
  // Before a line swallows Enter. Tab leads on to the next field of the page, so a chip is reached with the arrows.
  priority: 160,
  addKeyboardShortcuts: () => ({ Enter: openChosen }),
})
