import type { Shape } from '../../../api/client'
import { number, plural } from '../../../app/format'
import { classes } from '../../../parts/classes'
import { OpensPeople } from '../../people/behind/OpensPeople'
import { type Column, columns, columnWords, within, workdays } from './columns'
import { type Assumed, loadBehind, type Rehearsal } from './useRehearsal'

type Row = {
  key: string
  name: string
  short: string
  about: string
  of: 'letters' | 'tasks'
  whose: number | null
  items: { date: string; count: number; besides?: number }[]
  /** At most so many a day. */
  limit: number | null
}

/** How the head of the grid is written, by what its columns are. */
const HEADS = {
  day: { words: 'Letters a day', caption: '', above: ({ weekday }: Column) => weekday.slice(0, 1) },
  week: { words: 'Weeks from', caption: ', week by week', above: ({ month }: Column) => month },
  month: {
    words: 'Months',
    caption: ', month by month',
    above: ({ year, month }: Column, i: number) => (i === 0 || month === 'Jan' ? year : '\u00a0'),
  },
}

/** Letters by day and mailbox, tasks by day and colleague; each number opens its people. */
export function Grid({ sequence, rehearsal, assumed }: { sequence: Shape<'Sequence'>; rehearsal: Rehearsal; assumed: Assumed }) {
  const days = columns([...rehearsal.days, ...rehearsal.tasks].map(({ date }) => date))
  if (days.length === 0) return <p className="my-4">Nothing would go out.</p>
  const by = days[0]?.of ?? 'day'
  const most = Math.max(1, ...rehearsal.tasks.map(({ tasks }) => tasks))
  return (
    <div className="overflow-x-auto mb-5">
      <table className="w-full border-collapse text-center">
        <caption className="sr-only">Letters by day and mailbox, tasks by day and colleague{HEADS[by].caption}</caption>
        <thead>
          <tr>
            <th className="w-44 text-left font-normal muted text-xs align-bottom">{HEADS[by].words}</th>
            {days.map((day, i) => (
              <th key={day.from} scope="col" className="font-normal text-xs px-1 pb-1 min-w-9">
                <span className="muted block">{HEADS[by].above(day, i)}</span>
                <strong className="font-semibold">{by === 'month' ? day.month : day.number}</strong>
                {by === 'day' && (i === 0 || day.number === '1' || days[i - 1]?.month !== day.month) && (
                  <span className="muted block leading-3">{day.month}</span>
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rowsOf(rehearsal).map((row) => (
            <tr key={row.key} className="border-y border-base-300">
              <th scope="row" className="text-left font-normal py-1.5 pr-2">
                <strong className="font-semibold block truncate max-w-44" title={row.name}>
                  {row.short}
                </strong>
                <span className="muted text-xs">{row.about}</span>
              </th>
              {days.map((day) => (
                <Cell key={day.from} {...{ sequence, rehearsal, assumed, row, day, most }} />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

function Cell({
  sequence,
  rehearsal,
  assumed,
  row,
  day,
  most,
}: {
  sequence: Shape<'Sequence'>
  rehearsal: Rehearsal
  assumed: Assumed
  row: Row
  day: Column
  most: number
}) {
  const here = within(row.items, day)
  const count = here.reduce((sum, one) => sum + one.count, 0)
  const full = row.limit !== null && here.some((one) => one.count + (one.besides ?? 0) >= (row.limit ?? 0))
  const besides = here.reduce((sum, one) => sum + (one.besides ?? 0), 0)
  const share = Math.min(1, count / ((row.limit ?? most) * (day.of === 'day' ? 1 : workdays(day))))
  const words = `${row.of === 'letters' ? 'Letters from' : 'Tasks of'} ${row.name}, ${columnWords(day)}`
  return (
    <td
      className={classes('p-0 align-middle', full ? 'border-b-2 border-accent' : 'border-b border-base-300')}
      style={{
        backgroundColor:
          count > 0
            ? `color-mix(in oklab, var(${row.of === 'letters' ? '--color-primary' : '--color-accent'}) ${12 + share * 28}%, transparent)`
            : undefined,
      }}
      title={`${words}${besides > 0 ? `, and ${plural(besides, 'letter')} of other sequences` : ''}${full ? ': full' : ''}`}
    >
      {count === 0 ? (
        <span className="muted">·</span>
      ) : (
        <OpensPeople
          title={words}
          count={count}
          letters={row.of === 'letters' ? count : undefined}
          className="w-full h-11 tabular-nums hover:underline"
          queryKey={['rehearsal', rehearsal.run, row.key, day.from]}
          load={loadBehind(sequence.id, rehearsal.run, assumed, { of: row.of, whose: row.whose, from: day.from, to: day.to })}
        >
          {number(count)}
          {full && <span className="sr-only"> full</span>}
        </OpensPeople>
      )}
    </td>
  )
}

function rowsOf({ mailboxes, days, tasks, colleagues }: Rehearsal): Row[] {
  const named = new Map(colleagues.map((one) => [one.id, one.name]))
  // What all addresses end in says nothing.
  const shared = new Set(mailboxes.map((box) => box.address.split('@')[1])).size === 1
  const whose = [...new Set(tasks.map((one) => one.account_id ?? null))]
  return [
    ...mailboxes.map((box) => ({
      key: `box ${box.id}`,
      name: box.address,
      short: shared ? `${box.address.split('@')[0]}@` : box.address,
      about: `${number(box.a_day)} a day`,
      of: 'letters' as const,
      whose: box.id,
      items: days
        .filter((one) => one.mailbox_id === box.id)
        .map(({ date, letters, besides }) => ({ date, count: letters, besides })),
      limit: box.a_day,
    })),
    ...whose.map((id) => ({
      key: `tasks ${id}`,
      ...twice(id === null ? 'Nobody yet' : (named.get(id) ?? 'a colleague')),
      about: 'tasks',
      of: 'tasks' as const,
      whose: id,
      items: tasks.filter((one) => (one.account_id ?? null) === id).map(({ date, tasks: count }) => ({ date, count })),
      limit: null,
    })),
  ]
}

const twice = (name: string) => ({ name, short: name })

/** On how many days a mailbox sends as much as it may. */
export function fullDays({ mailboxes, days }: Rehearsal): number {
  const limits = new Map(mailboxes.map((box) => [box.id, box.a_day]))
  return new Set(days.filter((one) => one.letters + one.besides >= (limits.get(one.mailbox_id) ?? 0)).map((one) => one.date)).size
}
