import { useVirtualizer } from '@tanstack/react-virtual'
import { type KeyboardEvent, type MouseEvent, useEffect, useRef, useState } from 'react'
import { Link } from 'react-router'
import type { Shape } from '../../../api/client'
import { number, shortDate } from '../../../app/format'
import { useNow } from '../../../app/usePost'
import { classes } from '../../../parts/classes'
import { Sorted } from '../../../parts/Sorted'
import { ErrorNote, Loading } from '../../../parts/States'
import { type Asked, type Row, useRows, type View } from './usePeople'

const ROW_HEIGHT = 36
const MORE = 12 // rows drawn beyond what is seen
export const NAME = 'person.name'
// How much room a column takes beside the others; most take one share.
const WIDTHS: Record<string, number> = {
  'company.name': 1.3,
  'activity.last': 1.5,
  'person.email': 1.6,
  'person.owner': 0.8,
  'person.city': 0.9,
  'membership.now': 1.4,
}

/** Which rows are chosen: some by number, or all that match but for some. */
export type Chosen = { all: boolean; ids: Set<number> }
export const NOBODY: Chosen = { all: false, ids: new Set() }
export const isChosen = (chosen: Chosen, id: number) => chosen.all !== chosen.ids.has(id)

function Cell({ person, column, now }: { person: Row; column: string; now: string }) {
  const value = person.cells?.[column]
  const none = (words: string) => <span className="muted">{words}</span>
  if (column === 'activity.last')
    return person.last_activity ? `${shortDate(person.last_activity.at, now)}, ${person.last_activity.kind}` : none('never')
  if (column === 'membership.now') return person.now_in ?? none('—')
  if (column === 'person.owner') return value ? value.replace(/^(\S+) (\S).*/, '$1 $2.') : none('nobody')
  if (!value) return none('—')
  return /^\d{4}-\d\d-\d\d$/.test(value) ? shortDate(value, now) : value
}

const PLACE = 'nimble.place.people'

/** Where somebody stood in the answer to a question, in pixels; 0 in that to another. */
function place(question: string): number {
  const [kept, offset] = (sessionStorage.getItem(PLACE) ?? '').split('\n')
  return kept === question ? Number(offset) : 0
}

function keepPlace(question: string, offset: number) {
  sessionStorage.setItem(PLACE, `${question}\n${offset}`)
}

/** People in a table of any length. Rows are reached with the arrow keys; space chooses, enter opens beside the table. */
export function PeopleTable({
  asked,
  catalogue,
  chosen,
  open,
  onChoose,
  onOpen,
  onView,
  onTotal,
}: {
  asked: Asked
  catalogue: Shape<'Catalogue'>
  chosen: Chosen
  open: number | null
  onChoose: (chosen: Chosen) => void
  onOpen: (id: number) => void
  onView: (view: View) => void
  onTotal?: (total: number) => void
}) {
  const now = useNow()
  const scroller = useRef<HTMLDivElement>(null)
  const [known, setKnown] = useState(0)
  const [active, setActive] = useState(0)
  const last = useRef<number | null>(null)
  const question = JSON.stringify(asked)
  const virtual = useVirtualizer({
    count: known,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: MORE,
    // The header stands over the first rows.
    scrollPaddingStart: ROW_HEIGHT,
    initialOffset: () => place(question),
  })
  const shown = virtual.getVirtualItems()
  const { rows, total, error, loading } = useRows(asked, shown[0]?.index ?? 0, shown.at(-1)?.index ?? 0)
  useEffect(() => {
    if (total === undefined) return
    setKnown(total)
    onTotal?.(total)
  }, [total, onTotal])
  // Whoever goes to a record and back finds the same rows.
  useEffect(() => () => keepPlace(question, virtual.scrollOffset ?? 0), [question, virtual])
  const first = useRef(question)
  // biome-ignore lint/correctness/useExhaustiveDependencies: another question begins at its first row
  useEffect(() => {
    if (first.current === question) return
    first.current = ''
    // While another question loads there is nothing to scroll; the place must not be taken up again afterwards.
    virtual.scrollOffset = 0
    scroller.current?.scrollTo({ top: 0 })
    setActive(0)
    last.current = null
  }, [question])
  const columns = asked.columns.flatMap((key) => catalogue.fields.find((field) => field.key === key) ?? [])
  const template = `2rem minmax(10rem,1.5fr) ${columns.map((field) => `minmax(0,${WIDTHS[field.key] ?? 1}fr)`).join(' ')}`
  const toggle = (index: number, range: boolean) => {
    const person = rows.get(index)
    if (!person) return
    const ids = new Set(chosen.ids)
    const on = !isChosen(chosen, person.id)
    const [from, to] =
      range && last.current !== null ? [Math.min(last.current, index), Math.max(last.current, index)] : [index, index]
    for (let at = from; at <= to; at++) {
      const id = rows.get(at)?.id
      if (id !== undefined) on !== chosen.all ? ids.add(id) : ids.delete(id)
    }
    last.current = index
    onChoose({ ...chosen, ids })
  }
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 15, PageUp: -15, Home: -known, End: known }[event.key]
    if (step !== undefined) {
      event.preventDefault()
      const next = Math.min(Math.max(active + step, 0), known - 1)
      setActive(next)
      virtual.scrollToIndex(next)
      if (event.shiftKey) toggle(next, false)
    } else if (event.key === ' ') {
      event.preventDefault()
      toggle(active, event.shiftKey)
    } else if (event.key === 'Enter') {
      const id = rows.get(active)?.id
      if (id) onOpen(id)
    }
  }
  const sortBy = (field: string) =>
    onView({
      columns: asked.columns,
      sort:
        asked.sort?.field !== field ? { field, descending: false } : asked.sort.descending ? null : { field, descending: true },
    })
  const head = (key: string, words: string, sorted: boolean) => {
    const now = asked.sort?.field === key ? (asked.sort.descending ? 'descending' : 'ascending') : 'none'
    return (
      <div
        key={key}
        role="columnheader"
        tabIndex={-1}
        aria-sort={sorted ? now : undefined}
        className="truncate text-xs font-medium text-secondary py-2 pr-3"
      >
        {sorted ? (
          <button
            type="button"
            className="hover:text-primary"
            title={`Put in order by ${words.toLowerCase()}`}
            onClick={() => sortBy(key)}
          >
            {words}
            {now !== 'none' && <Sorted down={now === 'descending'} />}
          </button>
        ) : (
          words
        )}
      </div>
    )
  }
  if (error && loading) return <ErrorNote error={error} />
  if (loading) return <Loading lines={10} />
  return (
    <div
      ref={scroller}
      role="grid"
      aria-label="People"
      aria-rowcount={known + 1}
      aria-multiselectable="true"
      className="overflow-auto grow min-h-0 pr-3"
      // The rows are reached from here with the arrow keys.
      tabIndex={0}
      aria-activedescendant={rows.get(active) ? `row-${rows.get(active)?.id}` : undefined}
      onKeyDown={onKeyDown}
    >
      <div
        role="row"
        tabIndex={-1}
        className="grid sticky top-0 z-10 bg-base-100 border-b border-base-300"
        style={{ gridTemplateColumns: template }}
      >
        <div role="columnheader" tabIndex={-1} className="py-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            aria-label={`Choose all ${number(known)}`}
            checked={chosen.all && chosen.ids.size === 0}
            onChange={() => onChoose(chosen.all ? NOBODY : { all: true, ids: new Set() })}
          />
        </div>
        {head(NAME, 'Name', true)}
        {columns.map((field) => head(field.key, field.label, field.sorted || field.key === 'activity.last'))}
      </div>
      <div style={{ height: virtual.getTotalSize(), position: 'relative' }} role="rowgroup">
        {shown.map((item) => {
          const person = rows.get(item.index)
          return (
            <div
              key={item.key}
              id={person && `row-${person.id}`}
              role="row"
              tabIndex={-1}
              aria-rowindex={item.index + 2}
              aria-selected={person ? isChosen(chosen, person.id) : false}
              className={classes(
                'grid absolute inset-x-0 items-center border-b border-base-300/60 cursor-pointer',
                person && open === person.id ? 'bg-[var(--merged)]' : item.index === active ? 'bg-base-200' : 'hover:bg-base-200',
              )}
              style={{ gridTemplateColumns: template, height: item.size, transform: `translateY(${item.start}px)` }}
              onClick={() => {
                setActive(item.index)
                if (person) onOpen(person.id)
              }}
              onKeyDown={() => undefined}
            >
              {person ? (
                <>
                  <div role="gridcell" tabIndex={-1}>
                    <input
                      type="checkbox"
                      tabIndex={-1}
                      className="checkbox checkbox-xs"
                      aria-label={`Choose ${person.name}`}
                      checked={isChosen(chosen, person.id)}
                      onClick={(event: MouseEvent) => {
                        event.stopPropagation()
                        toggle(item.index, event.shiftKey)
                      }}
                      onChange={() => undefined}
                    />
                  </div>
                  <div role="gridcell" tabIndex={-1} className="truncate font-semibold pr-3">
                    <Link to={`/people/${person.id}`} tabIndex={-1} onClick={(event) => event.preventDefault()}>
                      {person.name}
                    </Link>
                    {!person.may_write && <span className="text-error font-normal text-xs"> · no letters</span>}
                  </div>
                  {columns.map((field) => (
                    <div key={field.key} role="gridcell" tabIndex={-1} className="truncate pr-3">
                      <Cell person={person} column={field.key} now={now} />
                    </div>
                  ))}
                </>
              ) : (
                <div role="gridcell" tabIndex={-1} className="col-span-full">
                  <div className="skeleton h-3 w-1/2 rounded-sm ml-8" />
                </div>
              )}
            </div>
          )
        })}
      </div>
    </div>
  )
}
