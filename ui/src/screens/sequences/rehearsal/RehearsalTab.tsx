import { useSearchParams } from 'react-router'
import type { Shape } from '../../../api/client'
import { moment, number, plural } from '../../../app/format'
import { useSession } from '../../../app/session'
import { Popover } from '../../../parts/Popover'
import { ErrorNote, Loading } from '../../../parts/States'
import { OpensPeople } from '../../people/behind/OpensPeople'
import { leftWords } from '../members/where'
import { Assumption, assumptionWords } from './Assumption'
import { fullDays, Grid } from './Grid'
import { Lives } from './Lives'
import { type Assumed, loadBehind, type Rehearsal, useRehearsal } from './useRehearsal'

const KEPT: Record<string, string> = {
  full: 'go on a later day, since their mailbox is full before',
  pace: 'wait for the letter before them to be gone',
  hours: 'wait for the hours of their mailbox',
  guard: 'wait, since their reader has been written to enough',
}

/** A sequence on paper: how it would go, if people did what is assumed of them. Nothing goes out. */
export function RehearsalTab({ sequence }: { sequence: Shape<'Sequence'> }) {
  const { firm } = useSession()
  const [params, setParams] = useSearchParams()
  const assumed = read(params)
  const { data, error, isFetching, refetch } = useRehearsal(sequence.id, sequence.version, assumed)
  const assume = (next: Assumed) => setParams(written(next), { replace: true })
  return (
    <>
      <p className="mb-2">
        <span className="bg-[var(--merged)] rounded-sm px-2 py-0.5 font-semibold text-xs">Rehearsal, nothing goes out</span>
        {sequence.state !== 'draft' && (
          <span className="muted text-xs ml-2">of what lies ahead of those who are on the way, by the plan in effect</span>
        )}
      </p>
      {error && <ErrorNote error={error} retry={refetch} />}
      {!data && !error && (
        <>
          <Loading />
          <p className="muted text-center">Everybody’s way is walked. Of very many that takes some seconds.</p>
        </>
      )}
      {data && (
        <div className={isFetching ? 'opacity-60' : ''} aria-busy={isFetching}>
          <p className="font-serif text-xl leading-8 mb-1">
            If{' '}
            <Popover words={assumptionWords(assumed)} label="What is assumed">
              {(shut) => (
                <div className="w-72 font-sans">
                  {(['last_time', 'nobody', 'everybody_opens'] as const).map((kind) => (
                    <button
                      key={kind}
                      type="button"
                      className="block w-full text-left px-1.5 py-1 rounded-sm hover:bg-base-200"
                      onClick={() => {
                        assume({ assume: kind, seed: assumed.seed })
                        shut()
                      }}
                    >
                      {assumptionWords({ assume: kind })}
                    </button>
                  ))}
                </div>
              )}
            </Popover>
            ,{' '}
            <Behind
              {...{ sequence, assumed }}
              rehearsal={data}
              count={data.people}
              asked={{ of: 'everybody' }}
              title="Everybody in it"
            >
              {plural(data.people, 'person', 'people')}
            </Behind>{' '}
            get{' '}
            <Behind
              {...{ sequence, assumed }}
              rehearsal={data}
              count={data.letters}
              letters={data.letters}
              asked={{}}
              title="Get a letter"
            >
              {plural(data.letters, 'letter')}
            </Behind>
            <Tasks {...{ sequence, assumed }} rehearsal={data} />
            {data.first_at && data.last_at && (
              <>
                , from {moment(data.first_at, firm.time_zone)} to {moment(data.last_at, firm.time_zone)}
              </>
            )}
            . <Full rehearsal={data} />
          </p>
          {data.people === 0 && (
            <p className="mb-2">
              {sequence.state === 'draft'
                ? 'Nobody would be in it from the start, or a letter is still to be chosen. Say to whom it goes, to rehearse it.'
                : 'Nobody is on the way.'}
            </p>
          )}
          <Assumption assumed={assumed} rates={data.rates} onChange={assume} />
          <Grid sequence={sequence} rehearsal={data} assumed={assumed} />
          <Moved {...{ sequence, assumed }} rehearsal={data} />
          <Lives sequence={sequence} rehearsal={data} assumed={assumed} />
        </div>
      )}
    </>
  )
}

function Tasks(props: { sequence: Shape<'Sequence'>; rehearsal: Rehearsal; assumed: Assumed }) {
  const tasks = props.rehearsal.tasks.reduce((sum, one) => sum + one.tasks, 0)
  if (tasks === 0) return null
  return (
    <>
      {' '}
      and colleagues{' '}
      <Behind {...props} count={tasks} asked={{ of: 'every_task' }} title="A colleague has a task for them">
        {plural(tasks, 'task')}
      </Behind>
    </>
  )
}

function Full({ rehearsal }: { rehearsal: Rehearsal }) {
  const days = fullDays(rehearsal)
  return <>{days === 0 ? 'No mailbox is ever full.' : `On ${plural(days, 'day')} a mailbox is full.`}</>
}

/** What goes later than it was due and why, and how they end. */
function Moved(props: { sequence: Shape<'Sequence'>; rehearsal: Rehearsal; assumed: Assumed }) {
  const { rehearsal } = props
  const moved = rehearsal.moved
    .map((one) => ({ ...one, count: one.why === 'full' ? one.later : one.letters }))
    .filter(({ count }) => count > 0)
  return (
    <ul className="flex flex-wrap gap-x-6 gap-y-1 mb-5 text-[13px]">
      {moved.map(({ why, count }) => (
        <li key={why}>
          <Behind {...props} count={count} asked={{ why }} title={`Letters that ${KEPT[why]}`} letters={count}>
            {plural(count, 'letter')}
          </Behind>{' '}
          {KEPT[why]}
        </li>
      ))}
      <li>
        <Behind {...props} count={rehearsal.finished} asked={{ out: 'through' }} title="Go through to its end">
          {number(rehearsal.finished)}
        </Behind>{' '}
        go through to its end
      </li>
      {rehearsal.left.map(({ reason, people }) => (
        <li key={reason}>
          <Behind {...props} count={people} asked={{ out: reason }} title={leftWords(reason)}>
            {number(people)}
          </Behind>{' '}
          {leftWords(reason)}
        </li>
      ))}
    </ul>
  )
}

function Behind({
  sequence,
  rehearsal,
  assumed,
  asked,
  ...rest
}: {
  sequence: Shape<'Sequence'>
  rehearsal: Rehearsal
  assumed: Assumed
  asked: object
  title: string
  count: number
  letters?: number
  children: React.ReactNode
}) {
  return (
    <OpensPeople
      {...rest}
      queryKey={['rehearsal', rehearsal.run, asked]}
      load={loadBehind(sequence.id, rehearsal.run, assumed, asked)}
    />
  )
}

const KINDS = ['nobody', 'everybody_opens', 'rates', 'last_time'] as const
const RATES = ['opened', 'clicked', 'replied', 'bounced'] as const

/** What the address of the page says is assumed. */
function read(params: URLSearchParams): Assumed {
  const assume = KINDS.find((kind) => kind === params.get('if')) ?? 'last_time'
  const seed = Math.max(1, Math.trunc(Number(params.get('seed')) || 1))
  if (assume !== 'rates') return { assume, seed }
  const share = (name: string) => Math.min(1, Math.max(0, Number(params.get(name)) / 100 || 0))
  return { assume, seed, rates: Object.fromEntries(RATES.map((name) => [name, share(name)])) }
}

function written({ assume, rates, seed }: Assumed): Record<string, string> {
  const own = rates ? Object.fromEntries(RATES.map((name) => [name, String(Math.round((rates[name] ?? 0) * 100))])) : {}
  return { if: assume ?? 'last_time', ...(seed && seed > 1 ? { seed: String(seed) } : {}), ...own }
}
