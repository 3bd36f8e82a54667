import type { JSONContent } from '@tiptap/react'
import { useState } from 'react'
import { RichText } from './RichText'

/** One line of words and merge fields that belongs to a block: an alt text, the address of a button. */
export function WordsWithFields({
  label,
  nodes,
  placeholder,
  onChange,
}: {
  label: string
  nodes: JSONContent[]
  placeholder?: string
  onChange: (nodes: JSONContent[]) => void
}) {
  // The editor holds the words from here on.
  const [first] = useState<JSONContent>({ type: 'doc', content: [{ type: 'paragraph', content: nodes }] })
  return (
    <div className="bg-[var(--sheet)] border border-base-300 rounded-sm px-2 py-1 text-sm">
      <RichText
        label={label}
        document={first}
        placeholder={placeholder}
        onChange={(document) => onChange(document.content?.[0]?.content ?? [])}
      />
    </div>
  )
}
