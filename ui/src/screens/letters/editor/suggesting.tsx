import { type Editor, Extension, type Range } from '@tiptap/core'
import { PluginKey } from '@tiptap/pm/state'
import { ReactRenderer } from '@tiptap/react'
import Suggestion, { type SuggestionProps } from '@tiptap/suggestion'
import { useEffect, useImperativeHandle, useState } from 'react'
import { classes } from '../../../parts/classes'

/** Something a menu in the text offers. */
export type Offer = { key: string; words: string; hint?: string; run: (editor: Editor, range: Range) => void }

type Listening = { onKeyDown: (event: KeyboardEvent) => boolean }

function OfferList({ items, command, ref }: SuggestionProps<Offer> & { ref?: React.Ref<Listening> }) {
  const [at, setAt] = useState(0)
  // Words that need no second one stand beside each other, under the line that is written.
  const strip = items.every((item) => item.hint === undefined)
  // biome-ignore lint/correctness/useExhaustiveDependencies: other offers begin at the first one
  useEffect(() => setAt(0), [items])
  useImperativeHandle(ref, () => ({
    onKeyDown: (event) => {
      if (event.key === 'ArrowDown' || (strip && event.key === 'ArrowRight'))
        setAt((now) => (now + 1) % Math.max(1, items.length))
      else if (event.key === 'ArrowUp' || (strip && event.key === 'ArrowLeft'))
        setAt((now) => (now + items.length - 1) % Math.max(1, items.length))
      else if (event.key === 'Enter' || event.key === 'Tab') {
        const item = items[at]
        if (!item) return false
        command(item)
      } else return false
      return true
    },
  }))
  if (items.length === 0) return null
  return (
    <div
      role="listbox"
      aria-label="Put in"
      tabIndex={-1}
      className={classes(
        'bg-[var(--sheet)] border border-base-300 rounded-sm p-1 font-sans text-sm shadow-lg max-h-80 overflow-auto',
        strip ? 'flex flex-wrap w-[30rem]' : 'w-64',
      )}
    >
      {items.map((item, i) => (
        <button
          key={item.key}
          type="button"
          role="option"
          aria-selected={i === at}
          className={classes(
            'flex justify-between gap-3 text-left px-2 py-1 rounded-sm',
            strip ? '' : 'w-full',
            i === at ? 'bg-base-200' : '',
          )}
          // A menu that opens below a pointer at rest is not pointed at.
          onMouseMove={(event) => (event.movementX || event.movementY) && setAt(i)}
          onMouseDown={(event) => {
            event.preventDefault()
            command(item)
          }}
        >
          <span>{item.words}</span>
          {item.hint && <span className="muted text-xs">{item.hint}</span>}
        </button>
      ))}
    </div>
  )
}

/** A menu that opens at a sign typed into the text, narrows as one types, and takes arrow keys and Enter. */
export function suggesting(name: string, char: string, offers: (words: string) => Offer[], onlyAfterSpace: boolean) {
  return Extension.create({
    name,
    // Its keys come before those of the text.
    priority: 200,
    addProseMirrorPlugins() {
      return [
        Suggestion<Offer>({
          editor: this.editor,
          pluginKey: new PluginKey(name),
          char,
          allowSpaces: char !== '/',
          allowedPrefixes: onlyAfterSpace ? [' '] : null,
          items: ({ query }) => (query.includes('}') || query.includes('|') ? [] : offers(query)),
          command: ({ editor, range, props }) => props.run(editor, range),
          render: () => {
            let list: ReactRenderer<Listening, SuggestionProps<Offer>> | null = null
            let shut = false
            const place = (props: SuggestionProps<Offer>) => {
              const rect = props.clientRect?.()
              if (!list || !rect) return
              const element = list.element as HTMLElement
              const below = rect.bottom + 4
              const height = Math.min(320, element.offsetHeight || 240)
              const left = Math.min(rect.left, window.innerWidth - 20 - (element.offsetWidth || 250))
              const top = below + height > window.innerHeight - 44 ? Math.max(4, rect.top - height - 4) : below
              Object.assign(element.style, { left: `${left}px`, top: `${top}px` })
            }
            return {
              onStart: (props) => {
                shut = false
                list = new ReactRenderer(OfferList, { props, editor: props.editor })
                const element = list.element as HTMLElement
                element.className = 'fixed inset-auto m-0 p-0 border-0 bg-transparent overflow-visible'
                document.body.append(element)
                // In front of what the line that is written in may stand in.
                element.popover = 'manual'
                element.showPopover?.()
                place(props)
                requestAnimationFrame(() => place(props))
              },
              onUpdate: (props) => {
                list?.updateProps(props)
                requestAnimationFrame(() => place(props))
              },
              onKeyDown: ({ event }) => {
                if (event.key === 'Escape') {
                  event.stopPropagation()
                  list?.element.remove()
                  shut = true
                  return true
                }
                return !shut && (list?.ref?.onKeyDown(event) ?? false)
              },
              onExit: () => {
                list?.element.remove()
                list?.destroy()
                list = null
              },
            }
          },
        }),
      ]
    },
  })
}
