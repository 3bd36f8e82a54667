import { useLayoutEffect, useMemo, useRef, useState } from 'react'
import type { Shape } from '../../../api/client'
import { plural } from '../../../app/format'
import { PeopleCount } from '../../people/behind/PeopleCount'
import { AddHere } from './AddHere'
import type { Kind, Place } from './edit'
import { AXIS_PX, GAP_PX, type Item, type Line, layOut, type Row } from './ruler'
import { StepCard } from './StepCard'

type Sequence = Shape<'Sequence'>
const WIDEST_PX = 380
const NARROWEST_PX = 190
const BETWEEN_PX = 14
/** Cards below this say less. */
const ROOMY_PX = 330
/** From the left of a card to the line that leads on from it. */
const LINE_PX = 20

const dateWords = (date: string) =>
  new Intl.DateTimeFormat('en-GB', { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' })
    .format(new Date(date))
    .replace(',', '')

/** The days at the left. */
function Days({ rows }: { rows: Row[] }) {
  return rows.map((row) => {
    const style = { top: row.top, height: row.height }
    if (row.kind === 'day')
      return (
        <div key={row.date} className="absolute left-0" style={style}>
          <div className="w-[70px] text-right text-xs leading-4 whitespace-nowrap">
            {row.busy ? (
              <>
                <strong className="font-semibold">Day {row.day}</strong>
                <br />
                <span className="muted">{dateWords(row.date)}</span>
              </>
            ) : (
              <span className="muted">{row.day}</span>
            )}
          </div>
          <div className="absolute left-[75px] top-2 w-2 border-t border-secondary" />
        </div>
      )
    return (
      <div key={row.from} className="absolute left-0 w-[84px] text-right text-[11px] muted py-0.5" style={style}>
        <span className={`block mr-1.5 h-full leading-4 ${row.kind === 'off' ? 'hatched' : 'italic'}`}>
          <span className="bg-base-100 px-1 whitespace-nowrap">{row.words}</span>
        </span>
      </div>
    )
  })
}

/** Lines from what leads on to what it leads to. */
function Lines({ lines, height, left }: { lines: Line[]; height: number; left: (item: Item) => number }) {
  const path = ({ from, to }: Line) => {
    const [x, y] = [left(from) + LINE_PX, from.top + from.height]
    const [toX, toY] = [left(to) + LINE_PX, to.top]
    // What parts does so below the fork; what comes together does so above the step behind it.
    const turn = from.kind === 'step' && from.step.kind === 'fork' && to.kind === 'lane' ? y + GAP_PX / 2 : toY - GAP_PX / 2
    return x === toX ? `M${x} ${y}V${toY}` : `M${x} ${y}V${turn}H${toX}V${toY}`
  }
  return (
    <svg aria-hidden="true" className="absolute inset-0 w-full pointer-events-none" style={{ height }}>
      {lines.map((line) => (
        <path key={path(line)} d={path(line)} fill="none" stroke="currentColor" className="text-secondary/50" />
      ))}
    </svg>
  )
}

/** What a lane is for, and how many went it. */
function LaneHead({ sequence, item }: { sequence: Sequence; item: Item & { kind: 'lane' } }) {
  const { lane } = item
  return (
    <p className="text-[13px] leading-5 pl-1 flex gap-2 bg-base-100 w-fit max-w-full items-baseline">
      <strong className="font-semibold text-primary truncate" title={lane.headline}>
        {lane.headline}
      </strong>
      {sequence.state !== 'draft' && (
        <PeopleCount
          title={`Went the lane “${lane.headline}”`}
          count={lane.took}
          condition={{ membership: 'was_in', sequence_id: sequence.id, lane_id: lane.id }}
        >
          <span className="text-xs whitespace-nowrap">{plural(lane.took, 'person', 'people')}</span>
        </PeopleCount>
      )}
    </p>
  )
}

/** The plan on a ruler of days: computed from the timing, lanes side by side. */
export function Ruler({
  sequence,
  chosen,
  addAfter,
  onChoose,
  onAdd,
  onMove,
}: {
  sequence: Sequence
  chosen: number | null
  /** Whose place behind it is open to add something. */
  addAfter: number | null
  onChoose: (id: number) => void
  onAdd?: (kind: Kind, place: Place) => void
  onMove?: (id: number, place: Place) => void
}) {
  const box = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState(600)
  useLayoutEffect(() => {
    const node = box.current
    if (!node) return
    const watch = new ResizeObserver(() => setWidth(node.clientWidth))
    watch.observe(node)
    return () => watch.disconnect()
  }, [])
  const notes = useMemo(() => {
    const byStep = new Map<number, Shape<'PlanNote'>[]>()
    for (const note of sequence.notes) if (note.step_id) byStep.set(note.step_id, [...(byStep.get(note.step_id) ?? []), note])
    return byStep
  }, [sequence.notes])
  const { items, rows, lines, height, columns, dense } = useMemo(
    () => layOut(sequence.steps, sequence.days_off, new Set(notes.keys())),
    [sequence.steps, sequence.days_off, notes],
  )
  const column = Math.min(WIDEST_PX, Math.max(NARROWEST_PX, (width - AXIS_PX) / columns))
  const left = (item: Item) => AXIS_PX + item.col * column
  const wide = (item: Item) => Math.min(WIDEST_PX, item.span * column - (columns > 1 ? BETWEEN_PX : 0))
  const add = (item: Item, behind: string, at: number) =>
    onAdd &&
    onMove && (
      <AddHere
        place={{ branch: item.branch, at }}
        behind={behind}
        open={item.kind === 'step' && item.step.id === addAfter}
        onAdd={onAdd}
        onDrop={onMove}
      />
    )
  return (
    // What opens below a step must not be cut off; a plan that is wider than the page scrolls, and has room for it.
    <div ref={box} className={AXIS_PX + columns * column > width ? 'overflow-x-auto pb-48' : 'pb-1'}>
      <div className="relative" style={{ height: height + 4, minWidth: AXIS_PX + columns * column }}>
        <div className="absolute left-[78px] top-2 border-l border-base-300" style={{ height }} />
        <Days rows={rows} />
        <Lines lines={lines} height={height} left={left} />
        {items.map((item) => {
          const style = { top: item.top, left: left(item), width: wide(item) }
          if (item.kind === 'end')
            return (
              <p key={`end ${item.lane.id}`} className="absolute text-xs muted leading-4 pl-1" style={style}>
                <span className="bg-base-100 pr-1">ends here</span>
              </p>
            )
          if (item.kind === 'join')
            return (
              <div
                key={`join ${item.fork.id}`}
                className="absolute flex items-center gap-2 text-xs muted"
                style={{ ...style, top: item.top + item.height }}
              >
                {add(item, `the fork, step ${item.fork.position}`, item.at)}
                {onAdd && 'behind the fork'}
              </div>
            )
          if (item.kind === 'lane')
            return (
              <div key={`lane ${item.lane.id}`} className="absolute" style={style}>
                <div style={{ height: item.height }}>
                  <LaneHead sequence={sequence} item={item} />
                </div>
                {add(item, `the lane “${item.lane.headline}”`, 0)}
              </div>
            )
          return (
            <div key={item.step.id} className="absolute" style={style}>
              <div style={{ height: item.height }}>
                <StepCard
                  sequenceId={sequence.id}
                  step={item.step}
                  state={sequence.state}
                  chosen={chosen === item.step.id}
                  dense={dense}
                  narrow={wide(item) < ROOMY_PX}
                  notes={notes.get(item.step.id) ?? []}
                  movable={Boolean(onMove)}
                  onChoose={() => onChoose(item.step.id)}
                />
              </div>
              {item.step.kind !== 'fork' && add(item, `step ${item.step.position}`, item.at + 1)}
            </div>
          )
        })}
      </div>
    </div>
  )
}
