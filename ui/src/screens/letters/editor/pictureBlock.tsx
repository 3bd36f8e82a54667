import { mergeAttributes, Node } from '@tiptap/core'
import { type NodeViewProps, NodeViewWrapper, ReactNodeViewRenderer } from '@tiptap/react'
import { Popover } from '../../../parts/Popover'
import { usePictures } from '../desk/usePictures'
import { WordsWithFields } from './WordsWithFields'

const WIDTHS = [25, 33, 50, 66, 75, 100]

function Picture({ node, updateAttributes, deleteNode, selected }: NodeViewProps) {
  const { data: pictures } = usePictures()
  const picture = pictures?.find((one) => one.id === node.attrs.picture_id)
  const silent = (node.attrs.alt ?? []).length === 0
  return (
    <NodeViewWrapper>
      <figure
        contentEditable={false}
        className={`my-3 ${selected ? 'outline-2 outline-primary' : ''}`}
        style={{ width: `${node.attrs.width}%` }}
        data-drag-handle
      >
        {picture ? (
          <img src={picture.url} alt={picture.name} className="block max-w-full" />
        ) : (
          <div className="skeleton h-24" role="status" aria-label="Picture" />
        )}
        <figcaption className="font-sans text-xs flex gap-3 mt-1 whitespace-nowrap">
          <Popover
            words={silent ? 'Say what it shows…' : 'Words and size'}
            label="Picture"
            className={silent ? 'text-error underline min-h-6' : 'quiet-word'}
          >
            {() => (
              <div className="w-80 p-1 whitespace-normal">
                <p className="field-label">What it shows, for those who do not see it</p>
                <WordsWithFields
                  label="What it shows"
                  nodes={node.attrs.alt ?? []}
                  onChange={(alt) => updateAttributes({ alt })}
                />
                <p className="field-label mt-2">Leads to (may stay empty)</p>
                <WordsWithFields
                  label="Address it leads to"
                  nodes={node.attrs.href ?? []}
                  placeholder="https://"
                  onChange={(href) => updateAttributes({ href })}
                />
                <label className="block mt-2">
                  <span className="field-label">As wide as</span>
                  <select
                    className="select select-sm w-full bg-[var(--sheet)]"
                    value={node.attrs.width}
                    onChange={(event) => updateAttributes({ width: Number(event.target.value) })}
                  >
                    {WIDTHS.map((width) => (
                      <option key={width} value={width}>
                        {width === 100 ? 'the letter' : `${width} % of the letter`}
                      </option>
                    ))}
                  </select>
                </label>
                <button type="button" className="btn btn-xs btn-plain mt-3" onClick={deleteNode}>
                  Take the picture out
                </button>
              </div>
            )}
          </Popover>
        </figcaption>
      </figure>
    </NodeViewWrapper>
  )
}

/** A picture of the library, with words in its place and, if wanted, an address. */
export const PictureBlock = Node.create({
  name: 'picture',
  group: 'block',
  atom: true,
  draggable: true,
  addAttributes: () => ({
    picture_id: { default: null, parseHTML: (node) => Number(node.getAttribute('data-picture')) || null },
    alt: { default: [] },
    href: { default: [] },
    width: { default: 100 },
  }),
  parseHTML: () => [{ tag: 'div[data-picture]' }],
  renderHTML: ({ node, HTMLAttributes }) => [
    'div',
    mergeAttributes({ class: HTMLAttributes.class }, { 'data-picture': node.attrs.picture_id }),
  ],
  addNodeView: () => ReactNodeViewRenderer(Picture),
})
