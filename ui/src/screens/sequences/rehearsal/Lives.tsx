import { useEffect, useLayoutEffect, useRef, useState } from 'react'
import { Link } from 'react-router'
import type { Shape } from '../../../api/client'
import { moment, plural } from '../../../app/format'
import { useKeys } from '../../../app/keys'
import { useSession } from '../../../app/session'
import { classes } from '../../../parts/classes'
import { OpensPeople } from '../../people/behind/OpensPeople'
import { leftWords } from '../members/where'
import { flat } from '../plan/plan'
import { onLines } from './lines'
import { type Assumed, loadBehind, type Rehearsal } from './useRehearsal'

type Life = Rehearsal['lives'][number]
type Span = { from: number; to: number; zone: string }
type Stop = { at: number; words: string; mark: string; said: string }
const LINE_PX = 20
const SHOWN = 12
const DAY_MS = 86_400_000
const MARKS: Record<string, string> = { task: 'bg-accent', letter: 'bg-primary rounded-full' }
const KEPT: Record<string, string> = {
  full: 'its mailbox was full',
  pace: 'one letter leaves after the other',
  hours: 'the mailbox sends at other hours',
  guard: 'they had been written to enough',
}

/** What it is like for one of those who go the same way, the way that most go first. */
export function Lives({ sequence, rehearsal, assumed }: { sequence: Shape<'Sequence'>; rehearsal: Rehearsal; assumed: Assumed }) {
  const { firm } = useSession()
  const [chosen, setChosen] = useState(0)
  const [shown, setShown] = useState(SHOWN)
  const list = useRef<HTMLUListElement>(null)
  const [width, setWidth] = useState(0)
  useLayoutEffect(() => {
    const node = list.current
    if (!node) return
    const watch = new ResizeObserver(() => setWidth(node.clientWidth - 190))
    watch.observe(node)
    return () => watch.disconnect()
  }, [])
  // biome-ignore lint/correctness/useExhaustiveDependencies: another rehearsal begins at its first life
  useEffect(() => setChosen(0), [rehearsal.run])
  const { lives } = rehearsal
  const go = (by: number) => {
    const next = Math.min(Math.max(chosen + by, 0), lives.length - 1)
    setChosen(next)
    if (next >= shown) setShown(next + SHOWN)
    list.current?.children[next]?.scrollIntoView({ block: 'nearest' })
  }
  useKeys([
    { key: 'j', words: 'Next life', run: () => go(1) },
    { key: 'k', words: 'Life before', run: () => go(-1) },
  ])
  const steps = new Map(flat(sequence.steps).map(({ step }) => [step.id, step]))
  const times = lives.flatMap((life) => [...life.path.map(({ at }) => at), ...(life.out ? [life.out.at] : [])]).map(Date.parse)
  const [from, to] = [Math.min(...times), Math.max(...times)]
  if (lives.length === 0) return null
  return (
    <section aria-labelledby="lives">
      <div className="flex justify-between items-baseline gap-3">
        <h2 id="lives" className="text-xl">
          What it is like for one of them
        </h2>
        <span className="muted text-xs">
          {plural(rehearsal.ways, 'way', 'ways')} through it · <span className="key">J</span> <span className="key">K</span> next,
          before
        </span>
      </div>
      <ul ref={list}>
        {lives.slice(0, shown).map((life, i) => (
          <li
            key={life.way}
            aria-current={i === chosen}
            className={classes(
              'grid grid-cols-[180px_minmax(0,1fr)] gap-2 border-b border-base-300 py-2 pl-2 scroll-mb-16',
              i === chosen ? 'bg-[var(--sheet)] border-l-2 border-l-primary' : 'border-l-2 border-l-transparent',
            )}
          >
            <div>
              <Link to={`/people/${life.person_id}`} className="font-semibold hover:underline block truncate min-h-6">
                {life.name}
              </Link>
              <span className="text-xs muted">
                {life.people === 1 ? (
                  'nobody else goes this way'
                ) : (
                  <OpensPeople
                    title={`They go the way of ${life.name}`}
                    count={life.people}
                    queryKey={['rehearsal', rehearsal.run, 'way', life.way]}
                    load={loadBehind(sequence.id, rehearsal.run, assumed, { way: life.way })}
                  >
                    <span className="text-xs">{plural(life.people, 'person', 'people')} go this way</span>
                  </OpensPeople>
                )}
              </span>
            </div>
            <Path stops={stopsOf(life, steps, { from, to, zone: firm.time_zone })} width={width} />
          </li>
        ))}
      </ul>
      {lives.length > shown && (
        <button type="button" className="btn btn-xs btn-plain mt-2" onClick={() => setShown(shown + SHOWN)}>
          More ways
        </button>
      )}
    </section>
  )
}

/** What happens to somebody, at its place between the first and the last thing that happens to any. */
function stopsOf(life: Life, steps: Map<number, Shape<'Step'>>, { from, to, zone }: Span): Stop[] {
  const place = (at: string) => (to > from ? (Date.parse(at) - from) / (to - from) : 0)
  const stops = life.path.map((stop) => {
    const step = steps.get(stop.step_id)
    const name = step?.kind === 'letter' ? (step.letter ?? step.headline) : (step?.headline ?? 'a step')
    const later = stop.wanted && Date.parse(stop.at) - Date.parse(stop.wanted) >= DAY_MS / 2
    return {
      at: place(stop.at),
      words: later ? `${name}, moved to ${moment(stop.at, zone).split(',')[0]}` : name,
      mark: MARKS[step?.kind ?? ''] ?? 'bg-success',
      said: `${moment(stop.at, zone)}${stop.why ? `, since ${KEPT[stop.why]}` : ''}`,
    }
  })
  if (!life.out) return stops
  const words = life.out.reason ? leftWords(life.out.reason) : 'through'
  return [...stops, { at: place(life.out.at), words, mark: 'bg-success rotate-45', said: moment(life.out.at, zone) }]
}

function Path({ stops, width }: { stops: Stop[]; width: number }) {
  const placed = onLines(stops, width)
  const lines = Math.max(1, ...placed.map(({ line }) => line + 1))
  return (
    <ol className="relative" style={{ height: lines * LINE_PX }}>
      {placed.map(({ item, at, line, before }, i) => (
        <li
          // biome-ignore lint/suspicious/noArrayIndexKey: a way may come to one step twice
          key={i}
          title={item.said}
          className={classes('absolute flex items-center gap-1.5 text-xs whitespace-nowrap', before && 'flex-row-reverse')}
          style={{ [before ? 'right' : 'left']: `${(before ? 1 - at : at) * 100}%`, top: line * LINE_PX }}
        >
          <span aria-hidden="true" className={classes('w-2 h-2 inline-block', item.mark)} />
          {item.words}
          <span className="sr-only">, {item.said}</span>
        </li>
      ))}
    </ol>
  )
}
