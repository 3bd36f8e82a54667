import type { JSONContent } from '@tiptap/react'
import { useMemo } from 'react'
import type { Shape } from '../../../api/client'
import { useCatalogue } from '../../../app/useCatalogue'
import { offered } from '../../letters/editor/fields'
import { LazyEditor } from '../../letters/editor/LazyEditor'
import { NO_WRITING, WritingContext } from '../../letters/editor/writing'

type Other = NonNullable<Shape<'Step'>['other']>

const EMPTY: JSONContent = { type: 'doc', content: [{ type: 'paragraph' }] }

/** Two versions of one letter step: what half of the members get instead, and when one may be called the better. */
export function OtherVersion({
  step,
  draft,
  onChange,
}: {
  step: Shape<'Step'>
  draft: boolean
  onChange: (other: Other | null) => void
}) {
  const { data: catalogue } = useCatalogue()
  const writing = useMemo(() => ({ ...NO_WRITING, fields: offered(catalogue?.fields ?? [], 'anybody') }), [catalogue])
  const other = step.other
  // Until it is set, the server says when one may be called the better.
  const rule = { at_least: other?.at_least, after_hours: other?.after_hours }
  if (!draft)
    return other ? (
      <p className="mt-3 muted text-[13px]">
        Half of the members get {other.what === 'subject' ? 'another subject' : 'another letter'}. One may be called the better
        after {rule.after_hours} hours and {rule.at_least} letters each.
      </p>
    ) : null
  return (
    <section className="mt-4 border-t border-base-300 pt-3" aria-label="Two versions">
      <label className="block">
        <span className="field-label">Two versions, half of the members each</span>
        <select
          className="select select-sm w-full bg-[var(--sheet)]"
          value={other?.what ?? ''}
          onChange={(event) => {
            const what = event.target.value
            if (what === 'subject') onChange({ what, subject: EMPTY as Shape<'Document'>, ...rule })
            else if (what === 'letter') onChange({ what, letter_id: step.letter_id ?? null, ...rule })
            else onChange(null)
          }}
        >
          <option value="">everybody gets the same</option>
          <option value="subject">another subject</option>
          <option value="letter">another letter</option>
        </select>
      </label>
      {other?.what === 'subject' && (
        <div className="mt-2">
          <span className="field-label">The other subject</span>
          <div className="bg-[var(--sheet)] border border-base-300 rounded-sm px-2 py-1.5">
            <WritingContext.Provider value={writing}>
              <LazyEditor
                line
                label="The other subject"
                document={(other.subject ?? EMPTY) as JSONContent}
                onChange={(subject) => onChange({ ...other, subject: subject as Shape<'Document'>, ...rule })}
              />
            </WritingContext.Provider>
          </div>
        </div>
      )}
      {other?.what === 'letter' && (
        <label className="block mt-2">
          <span className="field-label">The other letter</span>
          <select
            className="select select-sm w-full bg-[var(--sheet)]"
            value={other.letter_id ?? ''}
            onChange={(event) => onChange({ ...other, letter_id: Number(event.target.value) || null, ...rule })}
          >
            {catalogue?.letters.map((letter) => (
              <option key={letter.id} value={letter.id}>
                {letter.name}
              </option>
            ))}
          </select>
        </label>
      )}
      {other && (
        <p className="text-[13px] mt-2">
          One may be called the better after{' '}
          <input
            type="number"
            min={1}
            max={2160}
            aria-label="Hours"
            className="text-field !w-16 !h-6"
            value={rule.after_hours ?? ''}
            onChange={(event) => onChange({ ...other, ...rule, after_hours: Math.max(1, Number(event.target.value) || 1) })}
          />{' '}
          hours and{' '}
          <input
            type="number"
            min={1}
            max={100000}
            aria-label="Letters of each"
            className="text-field !w-16 !h-6"
            value={rule.at_least ?? ''}
            onChange={(event) => onChange({ ...other, ...rule, at_least: Math.max(1, Number(event.target.value) || 1) })}
          />{' '}
          letters of each.
        </p>
      )}
    </section>
  )
}
