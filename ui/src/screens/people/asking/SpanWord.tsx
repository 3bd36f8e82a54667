import { MenuList } from '../../../parts/MenuList'
import { Popover } from '../../../parts/Popover'
import type { Within } from './conditions'

const SPANS: Within[] = [
  { amount: 7, unit: 'days' },
  { amount: 30, unit: 'days' },
  { amount: 90, unit: 'days' },
  { amount: 6, unit: 'months' },
  { amount: 12, unit: 'months' },
]

/** "30 days", "1 month". */
export function spanWords(span: Within): string {
  return span.amount === 1 ? `1 ${span.unit.slice(0, -1)}` : `${span.amount} ${span.unit}`
}

/** A length of time that opens its choices; `any` lets it be left out. */
export function SpanWord({
  value,
  any = false,
  onChange,
}: {
  value: Within | null
  any?: boolean
  onChange: (span: Within | null) => void
}) {
  const now = value ?? { amount: 30, unit: 'days' as const }
  return (
    <Popover words={value ? spanWords(value) : 'any time'} label={`Within ${value ? spanWords(value) : 'any time'}`}>
      {(shut) => {
        const take = (span: Within | null) => {
          onChange(span)
          shut()
        }
        return (
          <div className="w-52">
            <MenuList
              className="w-full"
              items={[
                ...SPANS.map((span) => ({ value: span as Within | null, words: spanWords(span) })),
                ...(any ? [{ value: null, words: 'any time' }] : []),
              ]}
              onPick={take}
            />
            <div className="flex gap-1 mt-2">
              <input
                type="number"
                min={1}
                className="text-field !w-20"
                aria-label="How many"
                defaultValue={now.amount}
                onKeyDown={(event) => {
                  if (event.key !== 'Enter') return
                  event.preventDefault()
                  take({ ...now, amount: Math.max(1, Math.round(Number(event.currentTarget.value)) || 1) })
                }}
                onBlur={(event) => onChange({ ...now, amount: Math.max(1, Math.round(Number(event.target.value)) || 1) })}
              />
              <select
                className="select select-sm bg-[var(--sheet)]"
                aria-label="Unit"
                value={now.unit}
                onChange={(event) => onChange({ ...now, unit: event.target.value as Within['unit'] })}
              >
                {['days', 'weeks', 'months'].map((unit) => (
                  <option key={unit}>{unit}</option>
                ))}
              </select>
            </div>
          </div>
        )
      }}
    </Popover>
  )
}
