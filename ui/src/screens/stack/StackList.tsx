import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useRef } from 'react'
import type { Shape } from '../../api/client'
import { number } from '../../app/format'
import { classes } from '../../parts/classes'
import { Popover } from '../../parts/Popover'
import { type Only, onlyOptions } from './marks'
import type { Row } from './useStack'

type Stack = Shape<'Stack'>
const ROW = 33
const STATE_WORDS: Record<string, string> = {
  sent: 'sent',
  failed: 'failed',
  skipped: 'not sent',
  in_doubt: 'in doubt',
  set_aside: 'set aside',
}

function Mark({ row, conditions }: { row: Row; conditions: Stack['conditions'] }) {
  if (row.gaps.length > 0) return <span className="text-error">no {row.gaps[0]?.label.toLowerCase()}</span>
  if (row.line_lost) return <span className="text-error">line without place</span>
  if (row.personal) return <span className="text-accent font-semibold">personal</span>
  if (row.unanswered) return <span className="text-accent">no answer</span>
  if (row.version === 'b') return <span className="text-primary">other version</span>
  if (STATE_WORDS[row.state]) return <span className="muted">{STATE_WORDS[row.state]}</span>
  if (conditions.length > 0 && row.sides.length > 0)
    return <span className="text-primary">◆ {row.sides.map((side) => side + 1).join(' ')}</span>
  return <span className="muted">{row.company}</span>
}

/** Everybody's letter, however many: with marks, and narrowed to some of them. */
export function StackList({
  stack,
  rowAt,
  at,
  only,
  onOnly,
  onGo,
  onSight,
}: {
  stack: Stack
  /** What is read of it by now. */
  rowAt: (place: number) => Row | undefined
  at: number
  only: Only
  onOnly: (only: Only) => void
  onGo: (at: number) => void
  onSight: (places: { first: number; last: number }) => void
}) {
  const list = useRef<HTMLDivElement>(null)
  const virtual = useVirtualizer({
    count: stack.shown,
    getScrollElement: () => list.current,
    estimateSize: () => ROW,
    overscan: 12,
  })
  useEffect(() => {
    if (stack.shown > 0) virtual.scrollToIndex(at)
  }, [at, stack.shown, virtual])
  const items = virtual.getVirtualItems()
  const [first, last] = [items[0]?.index ?? 0, items[items.length - 1]?.index ?? 0]
  useEffect(() => onSight({ first, last }), [first, last, onSight])
  const options = onlyOptions(stack)
  const chosen = options.find((option) => option.only === only)
  return (
    <div className="border border-base-300 rounded-sm bg-[var(--sheet)] flex flex-col max-h-[calc(100vh-140px)]">
      <p className="flex gap-2 px-2.5 py-2 border-b border-base-300 font-semibold items-baseline">
        <span className="grow">
          {only === 'all' ? `${number(stack.total)} letters` : `${number(stack.shown)} of ${number(stack.total)}`}
        </span>
        <Popover words={chosen?.short ?? 'all'} label="Which letters" className="quiet-word !text-xs underline decoration-dotted">
          {(shut) => (
            <ul className="w-64 font-normal">
              {options.map((option) => (
                <li key={option.only}>
                  <button
                    type="button"
                    aria-pressed={option.only === only}
                    className="flex w-full justify-between gap-3 text-left px-1.5 py-1 rounded-sm hover:bg-base-200"
                    onClick={() => {
                      onOnly(option.only)
                      shut()
                    }}
                  >
                    <span>{option.words}</span>
                    <span className="muted">
                      {option.atMost && 'up to '}
                      {number(option.count)}
                    </span>
                  </button>
                </li>
              ))}
            </ul>
          )}
        </Popover>
      </p>
      {(stack.with_gaps > 0 || stack.personal > 0) && (
        <p className="flex gap-3 px-2.5 py-1 border-b border-base-300 text-xs font-semibold">
          {stack.with_gaps > 0 && (
            <button
              type="button"
              className="text-error cursor-pointer min-h-6"
              onClick={() => onOnly(only === 'gaps' ? 'all' : 'gaps')}
            >
              {stack.gaps_at_most && 'up to '}
              {number(stack.with_gaps)} {stack.with_gaps === 1 ? 'gap' : 'gaps'}
            </button>
          )}
          {stack.personal > 0 && (
            <button
              type="button"
              className="text-accent cursor-pointer min-h-6"
              onClick={() => onOnly(only === 'personal' ? 'all' : 'personal')}
            >
              {number(stack.personal)} personal
            </button>
          )}
        </p>
      )}
      <div ref={list} className="overflow-auto grow" style={{ height: Math.min(stack.shown * ROW, 560) }}>
        <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {items.map((item) => {
            const one = rowAt(item.index)
            if (!one) return null
            return (
              <button
                key={item.index}
                type="button"
                aria-current={item.index === at}
                onClick={() => onGo(item.index)}
                style={{ position: 'absolute', top: item.start, height: ROW }}
                className={classes(
                  'flex w-full justify-between gap-2 px-2.5 items-center border-b border-base-300/60 text-left',
                  'border-l-[3px]',
                  item.index === at ? 'border-l-primary font-semibold' : 'border-l-transparent hover:bg-base-200',
                )}
              >
                <span className="truncate shrink-0 max-w-40">{one.name}</span>
                <span className="truncate font-normal">
                  <Mark row={one} conditions={stack.conditions} />
                </span>
              </button>
            )
          })}
        </div>
      </div>
    </div>
  )
}
