import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { writeDate } from '../../../app/dates'
import { moment, plural } from '../../../app/format'
import { useSession } from '../../../app/session'
import { stale } from '../../../app/stale'
import { useCatalogue } from '../../../app/useCatalogue'
import { useInAddress } from '../../../app/useInAddress'
import { useNow } from '../../../app/usePost'
import { Choices } from '../../../parts/Choices'
import { classes } from '../../../parts/classes'
import { Popover } from '../../../parts/Popover'
import { Sorted } from '../../../parts/Sorted'
import { Empty, ErrorNote, Loading } from '../../../parts/States'
import { flat } from '../plan/plan'
import { ActOnMembers } from './ActOnMembers'
import { AddPeople } from './AddPeople'
import { MemberBeside } from './MemberBeside'
import { type Asked, type Sort, useMembers } from './useMembers'
import { where } from './where'

const COLUMNS: { key: Sort; words: string }[] = [
  { key: 'name', words: 'Name' },
  { key: 'company', words: 'Company' },
  { key: 'status', words: 'Status' },
  { key: 'place', words: 'Where' },
  { key: 'next', words: 'Next' },
]
/** What may stand beside where they are and what comes next. */
const MORE = [
  { value: 'company', words: 'Company' },
  { value: 'status', words: 'Status' },
  { value: 'email', words: 'Address' },
  { value: 'city', words: 'City' },
  { value: 'owner', words: 'Owner' },
  { value: 'joined', words: 'Joined' },
]
const OTHERS = ['email', 'city', 'owner', 'joined'] as const
const ALL = { words: '', status: '', place: '', sort: 'joined', down: '', columns: 'company status' }

/** Who is in it, where, and what the firm says of them. */
export function MembersTab({ sequence }: { sequence: Shape<'Sequence'> }) {
  const { firm } = useSession()
  const now = useNow()
  const client = useQueryClient()
  const { data: catalogue } = useCatalogue()
  const [shown, setShown] = useInAddress(ALL)
  const [adding, setAdding] = useState(false)
  const [chosen, setChosen] = useState<Set<number>>(new Set())
  const [open, setOpen] = useState<number | null>(null)
  const asked: Asked = {
    ...shown,
    words: useDeferredValue(shown.words),
    sort: shown.sort as Sort,
    descending: shown.down === 'yes',
  }
  const query = useMembers(sequence.id, asked)
  const change = useMutation({
    mutationFn: ({ id, status }: { id: number; status: string }) =>
      ask(api.PATCH('/api/members/{id}', { params: { path: { id } }, body: { status } })),
    onSuccess: () => stale(client, 'members'),
  })
  if (sequence.state === 'draft')
    return <Empty>Nobody is in it before it starts. {plural(sequence.sieve.would_get_it, 'person', 'people')} would be.</Empty>
  if (!query.data) return query.error ? <ErrorNote error={query.error} /> : <Loading />
  const members = query.data.pages.flatMap((page) => page.members)
  const total = query.data.pages[0]?.total ?? 0
  const beside = members.find((member) => member.id === open)
  const columns = shown.columns.split(' ')
  const shows = (column: string) => columns.includes(column)
  const narrowed = asked.words !== '' || asked.status !== '' || asked.place !== ''
  const choose = (ids: number[], on: boolean) => {
    const next = new Set(chosen)
    for (const id of ids) on ? next.add(id) : next.delete(id)
    setChosen(next)
  }
  const sort = (key: Sort) => setShown({ sort: key, down: shown.sort === key && shown.down !== 'yes' ? 'yes' : '' })
  return (
    <>
      <div className="flex flex-wrap items-center gap-3 mb-2">
        <strong className="font-semibold">{plural(total, 'member')}</strong>
        <input
          type="search"
          className="text-field !w-52"
          aria-label="Find a member"
          placeholder="Name, company or address"
          value={shown.words}
          onChange={(event) => setShown({ words: event.target.value })}
        />
        <Places sequence={sequence} place={shown.place} onPlace={(place) => setShown({ place })} />
        <select
          className="select select-sm w-44 bg-[var(--sheet)]"
          aria-label="With status"
          value={shown.status}
          onChange={(event) => setShown({ status: event.target.value })}
        >
          <option value="">with any status</option>
          {catalogue?.statuses.map((one) => (
            <option key={one.key} value={one.key}>
              {one.words}
            </option>
          ))}
        </select>
        <Popover words="Columns" label="Which columns" className="btn btn-sm btn-plain ml-auto">
          {() => (
            <Choices
              label="Columns"
              options={MORE}
              chosen={columns}
              onChange={(chosen) => setShown({ columns: chosen.join(' ').trim() })}
            />
          )}
        </Popover>
        {['running', 'paused'].includes(sequence.state) && (
          <button type="button" className="btn btn-sm btn-plain" onClick={() => setAdding(true)}>
            Add people…
          </button>
        )}
      </div>
      {adding && <AddPeople sequence={sequence} onClose={() => setAdding(false)} />}
      {change.error && <ErrorNote error={change.error} />}
      {chosen.size > 0 && <ActOnMembers sequence={sequence} asked={asked} total={total} chosen={chosen} onChoose={setChosen} />}
      {members.length === 0 && <Empty>{narrowed ? 'No member is like that.' : 'Nobody is in it yet.'}</Empty>}
      <div className={classes('grid gap-5 items-start', beside && 'grid-cols-[minmax(0,1fr)_300px]')}>
        {members.length > 0 && (
          <table className="plain w-full">
            <thead>
              <tr>
                <th className="w-7">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-xs"
                    aria-label="Choose all that are shown"
                    checked={members.every((member) => chosen.has(member.person_id))}
                    onChange={(event) =>
                      choose(
                        members.map((member) => member.person_id),
                        event.target.checked,
                      )
                    }
                  />
                </th>
                {COLUMNS.filter(({ key }) => !MORE.some((one) => one.value === key) || shows(key)).map(({ key, words }) => (
                  <th key={key} aria-sort={shown.sort === key ? (shown.down === 'yes' ? 'descending' : 'ascending') : 'none'}>
                    <button type="button" className="font-semibold hover:underline" onClick={() => sort(key)}>
                      {words}
                      {shown.sort === key && <Sorted down={shown.down === 'yes'} />}
                    </button>
                  </th>
                ))}
                {OTHERS.filter(shows).map((column) => (
                  <th key={column}>{MORE.find((one) => one.value === column)?.words}</th>
                ))}
              </tr>
            </thead>
            <tbody>
              {members.map((member) => (
                <tr key={member.id} className={member.id === open ? 'bg-base-200' : undefined}>
                  <td>
                    <input
                      type="checkbox"
                      className="checkbox checkbox-xs"
                      aria-label={`Choose ${member.name}`}
                      checked={chosen.has(member.person_id)}
                      onChange={(event) => choose([member.person_id], event.target.checked)}
                    />
                  </td>
                  <td>
                    <button
                      type="button"
                      className="font-semibold hover:underline text-left"
                      aria-expanded={member.id === open}
                      onClick={() => setOpen(member.id === open ? null : member.id)}
                    >
                      {member.name}
                    </button>
                  </td>
                  {shows('company') && <td className="muted">{member.company}</td>}
                  {shows('status') && (
                    <td>
                      <select
                        className="select select-xs w-36 bg-transparent"
                        aria-label={`Status of ${member.name}`}
                        value={member.status}
                        onChange={(event) => change.mutate({ id: member.id, status: event.target.value })}
                      >
                        {catalogue?.statuses.map((one) => (
                          <option key={one.key} value={one.key}>
                            {one.words}
                          </option>
                        ))}
                      </select>
                      {member.status_by_hand && <span className="text-accent text-xs"> by hand</span>}
                    </td>
                  )}
                  <td>{where(member)}</td>
                  <td className="muted whitespace-nowrap">
                    {member.next_at ? moment(member.next_at, firm.time_zone) : '—'}
                    {member.next_at && member.away_until && member.away_until >= now.slice(0, 10) && (
                      <span className="block text-xs text-accent">
                        away until {writeDate(member.away_until, firm.date_order)}
                      </span>
                    )}
                  </td>
                  {OTHERS.filter(shows).map((column) => (
                    <td key={column} className="muted">
                      {column === 'joined' ? member.joined_at && moment(member.joined_at, firm.time_zone) : member[column]}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {beside && <MemberBeside sequence={sequence} member={beside} onClose={() => setOpen(null)} />}
      </div>
      {query.hasNextPage && (
        <button type="button" className="btn btn-sm btn-plain mt-3" onClick={() => query.fetchNextPage()}>
          More
        </button>
      )}
    </>
  )
}

/** Where they are: before a step, in a lane, paused, through, or what they wait for. */
function Places({ sequence, place, onPlace }: { sequence: Shape<'Sequence'>; place: string; onPlace: (place: string) => void }) {
  const steps = flat(sequence.steps).map(({ step }) => step)
  return (
    <select
      className="select select-sm w-52 bg-[var(--sheet)]"
      aria-label="Where they are"
      value={place}
      onChange={(event) => onPlace(event.target.value)}
    >
      <option value="">wherever they are</option>
      <option value="active">on the way</option>
      <option value="paused">paused</option>
      <option value="nod">waiting to be looked at</option>
      <option value="reaction">waiting for a reaction</option>
      <option value="outcome">waiting for a task</option>
      <option value="finished">went through</option>
      <option value="left">left</option>
      {steps.map((step) => (
        <option key={step.id} value={`step-${step.id}`}>
          before {step.position}: {step.headline}
        </option>
      ))}
      {steps.flatMap((step) =>
        (step.lanes ?? []).map((lane) => (
          <option key={lane.id} value={`lane-${lane.id}`}>
            took “{lane.headline}”
          </option>
        )),
      )}
    </select>
  )
}
