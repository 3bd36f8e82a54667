import { useQuery } from '@tanstack/react-query'
import { ArrowUp, X } from 'lucide-react'
import { useState } from 'react'
import { api, ask, type Shape } from '../../../api/client'
import { plural } from '../../../app/format'
import { MenuList } from '../../../parts/MenuList'
import { Popover } from '../../../parts/Popover'
import { useTyped } from '../../../parts/useTyped'
import { PeopleCount } from '../../people/behind/PeopleCount'
import { comesBefore, stepInput } from '../plan/plan'
import { ConditionDialog } from './ConditionDialog'
import { linksIn } from './links'
import { AmountChoice } from './TimingSentence'
import { soLong, type Unit } from './timing'

type Step = Shape<'Step'>
type Lane = Shape<'LaneInput'>
type Fork = Pick<Shape<'StepInput'>, 'within' | 'lanes'>
type Test = NonNullable<Lane['test']>
type Waited = NonNullable<Test['kind']>

const HAPPENS: { value: Waited; words: string }[] = [
  { value: 'opened', words: 'they opened' },
  { value: 'clicked', words: 'they clicked' },
  { value: 'replied', words: 'they replied' },
  { value: 'converted', words: 'they converted' },
  { value: 'bounced', words: 'their address failed' },
  { value: 'task_done', words: 'the task is done' },
]

/** What happens to the letters of a lane for people whose address failed. */
export const IN_FAILED_LANE =
  'Taken at once when the address fails. Letters in this lane and behind the fork are skipped; tasks and changes are done.'

/** How long a fork waits, and its lanes in the order in which they are asked. */
export function ForkStep({
  sequence,
  step,
  editable,
  onChange,
}: {
  sequence: Shape<'Sequence'>
  step: Step
  editable: boolean
  /** Each change is made on the fork as it is by then, since the one before may still be on its way. */
  onChange: (change: (now: Fork) => Partial<Fork>) => void
}) {
  const seen = step.lanes ?? []
  const lanes = stepInput(step).lanes ?? []
  const change = (make: (lanes: Lane[]) => Lane[]) => onChange((now) => ({ lanes: make(now.lanes ?? []) }))
  // One without a number yet is found by its place.
  const at = (all: Lane[], i: number) => {
    const id = lanes[i]?.id
    return id ? all.findIndex((lane) => lane.id === id) : i
  }
  const set = (i: number, part: Partial<Lane>) =>
    change((all) => all.map((lane, n) => (n === at(all, i) ? { ...lane, ...part } : lane)))
  const within = (step.within ?? null) as { amount?: number; unit?: Unit } | null
  const waits = { counted: 'step' as const, amount: within?.amount ?? 0, unit: within?.unit ?? ('working_days' as const) }
  const rest = lanes.findIndex((lane) => !lane.test)
  const reacting = lanes.some((lane) => lane.test?.kind)
  const addLane = (test: Test | null) =>
    change((all) => {
      const otherwise = all.findIndex((lane) => !lane.test)
      return all.toSpliced(otherwise < 0 ? all.length : otherwise, 0, { test, comes_back: true, steps: [] })
    })
  return (
    <>
      {editable ? (
        <p className="bg-[var(--sheet)] border border-base-300 rounded-sm px-2.5 py-1.5 mb-3 leading-7">
          {within ? 'Wait up to ' : 'Ways part '}
          <Popover words={within ? soLong(waits.amount, waits.unit) : 'at once, by conditions'} label="How long it waits">
            {(shut) => (
              <div className="w-72">
                <AmountChoice
                  timing={waits}
                  onChange={({ amount, unit }) =>
                    onChange(({ within: now }) => ({
                      within: {
                        amount: waits.amount,
                        unit: waits.unit,
                        ...now,
                        ...(amount !== undefined && { amount }),
                        ...(unit && { unit }),
                      },
                    }))
                  }
                />
                <button
                  type="button"
                  className="block w-full text-left px-1.5 py-1 mt-1 rounded-sm hover:bg-base-200"
                  onClick={() => {
                    onChange(() => ({ within: null }))
                    shut()
                  }}
                >
                  not at all: ways part at once
                </button>
              </div>
            )}
          </Popover>
          {within ? ' for what the lanes say. They are asked in their order.' : '.'}
        </p>
      ) : null}
      {editable && !within && reacting && (
        <p className="text-accent text-xs mb-2">It waits for nothing, so only what has happened before counts.</p>
      )}
      <ol className="grid gap-2">
        {lanes.map((lane, i) => (
          <li key={lane.id ?? `new ${i}`} className="border border-base-300 rounded-sm px-2.5 py-1.5">
            {editable ? (
              <LaneEditor
                sequence={sequence}
                fork={step}
                lane={lane}
                headline={seen[i]?.headline ?? ''}
                hasRest={rest >= 0 && rest !== i}
                onChange={(part) => set(i, part)}
                onUp={i > 0 && lane.test ? () => change((all) => moved(all, at(all, i))) : undefined}
                onOut={() => change((all) => all.toSpliced(at(all, i), 1))}
              />
            ) : (
              <p className="flex justify-between gap-3">
                <span>{seen[i]?.headline}</span>
                <span className="muted whitespace-nowrap">
                  <PeopleCount
                    title={`Went the lane “${seen[i]?.headline}”`}
                    count={seen[i]?.took ?? 0}
                    condition={{ membership: 'was_in', sequence_id: sequence.id, lane_id: lane.id ?? 0 }}
                  >
                    {plural(seen[i]?.took ?? 0, 'person', 'people')}
                  </PeopleCount>{' '}
                  took it{lane.comes_back ? '' : '; ends there'}
                </span>
              </p>
            )}
            {!editable && lane.test?.kind === 'bounced' && <p className="muted text-xs">{IN_FAILED_LANE}</p>}
          </li>
        ))}
      </ol>
      {editable && lanes.length < 12 && (
        <div className="flex gap-2 mt-2">
          <button type="button" className="btn btn-xs btn-plain" onClick={() => addLane({ kind: 'clicked' })}>
            Add a lane
          </button>
          {rest < 0 && (
            <button type="button" className="btn btn-xs btn-plain" onClick={() => addLane(null)}>
              Add an “otherwise”
            </button>
          )}
        </div>
      )}
      {rest < 0 && lanes.length > 0 && <p className="muted text-xs mt-2">Whoever fits no lane goes on behind the fork.</p>}
    </>
  )
}

const moved = (lanes: Lane[], i: number) => lanes.toSpliced(i, 1).toSpliced(i - 1, 0, lanes[i] as Lane)

function LaneEditor({
  sequence,
  fork,
  lane,
  headline,
  hasRest,
  onChange,
  onUp,
  onOut,
}: {
  sequence: Shape<'Sequence'>
  fork: Step
  lane: Lane
  headline: string
  hasRest: boolean
  onChange: (part: Partial<Lane>) => void
  onUp?: () => void
  onOut: () => void
}) {
  const [asking, setAsking] = useState(false)
  const words = useTyped(lane.words ?? '')
  const test = lane.test ?? null
  const said = test?.condition ? headline : (HAPPENS.find((one) => one.value === test?.kind)?.words ?? 'otherwise')
  return (
    <>
      <div className="flex flex-wrap gap-x-1.5 items-baseline leading-7">
        <Popover words={test?.condition ? 'a condition holds' : said} label={`What the lane “${headline}” is for`}>
          {(shut) => (
            <MenuList
              items={[
                ...HAPPENS,
                { value: 'condition' as const, words: 'a condition holds…' },
                ...(hasRest ? [] : [{ value: 'rest' as const, words: 'otherwise: all who fit no lane' }]),
              ]}
              onPick={(picked) => {
                shut()
                if (picked === 'condition') setAsking(true)
                else if (picked === 'rest') onChange({ test: null })
                else onChange({ test: { ...keptOf(test, picked), kind: picked } })
              }}
            />
          )}
        </Popover>
        {test?.kind && <About sequence={sequence} fork={fork} test={test} onChange={(next) => onChange({ test: next })} />}
        {test?.condition && (
          <button type="button" className="word text-left" onClick={() => setAsking(true)}>
            {headline}
          </button>
        )}
      </div>
      <div className="flex flex-wrap gap-2 items-center text-[13px]">
        <Popover
          words={lane.comes_back ? 'then goes on behind the fork' : 'then ends there'}
          label={`How the lane “${headline}” ends`}
          className="quiet-word"
        >
          {(shut) => (
            <MenuList
              items={[
                { value: true, words: 'goes on behind the fork' },
                { value: false, words: 'ends there' },
              ]}
              onPick={(comes_back) => {
                shut()
                onChange({ comes_back })
              }}
            />
          )}
        </Popover>
        <input
          className="grow min-w-24 bg-transparent border-b border-base-300 focus:border-primary !outline-none"
          aria-label={`Words of your own for the lane “${headline}”`}
          placeholder="words of your own"
          maxLength={120}
          value={words.text}
          onChange={(event) => words.type(event.target.value)}
          onBlur={() => {
            words.leave()
            if (words.text.trim() !== (lane.words ?? '')) onChange({ words: words.text.trim() || null })
          }}
          onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        />
        {onUp && (
          <button
            type="button"
            className="btn btn-xs btn-plain px-1.5"
            aria-label={`Ask the lane “${headline}” earlier`}
            onClick={onUp}
          >
            <ArrowUp className="mark" aria-hidden />
          </button>
        )}
        <button
          type="button"
          className="btn btn-xs btn-plain px-1.5"
          aria-label={`Take the lane “${headline}” out`}
          onClick={onOut}
        >
          <X className="mark" aria-hidden />
        </button>
      </div>
      {test?.kind === 'bounced' && <p className="muted text-xs">{IN_FAILED_LANE}</p>}
      {asking && (
        <ConditionDialog
          title="Who goes this way?"
          condition={test?.condition ?? null}
          keep="They go this way"
          onKeep={(condition) => onChange({ test: { condition } })}
          onClose={() => setAsking(false)}
        />
      )}
    </>
  )
}

/** Another reaction stays about the letter it was about; the end of a task is about a task. */
function keptOf(test: Test | null, kind: Waited): Partial<Test> {
  const aboutTask = (one?: string | null) => one === 'task_done'
  return test?.kind && test.step_id && aboutTask(test.kind) === aboutTask(kind) ? { step_id: test.step_id } : {}
}

/** Which letter or task a lane is about, which link, which outcome. */
function About({
  sequence,
  fork,
  test,
  onChange,
}: {
  sequence: Shape<'Sequence'>
  fork: Step
  test: Test
  onChange: (test: Test) => void
}) {
  const kind = test.kind === 'task_done' ? 'task' : 'letter'
  const before = (comesBefore(sequence.steps, fork.id) ?? []).filter((step) => step.kind === kind)
  const about = before.find((step) => step.id === test.step_id)
  const name = (step: Step) => `${step.position}: ${step.headline}`
  return (
    <>
      <Popover words={about ? `step ${about.position}` : kind === 'task' ? 'any task' : 'any letter'} label="Of which step">
        {(shut) => (
          <MenuList
            className="w-64"
            items={[{ value: 0, words: `any ${kind}` }, ...before.map((step) => ({ value: step.id, words: name(step) }))]}
            onPick={(id) => {
              shut()
              onChange({ kind: test.kind, ...(id ? { step_id: id } : {}) })
            }}
          />
        )}
      </Popover>
      {test.kind === 'clicked' && <LinkChoice letterId={about?.letter_id ?? null} test={test} onChange={onChange} />}
      {test.kind === 'task_done' && <OutcomeChoice test={test} onChange={onChange} />}
    </>
  )
}

function LinkChoice({ letterId, test, onChange }: { letterId: number | null; test: Test; onChange: (test: Test) => void }) {
  const { data: letter } = useQuery({
    queryKey: ['letter', letterId],
    queryFn: () => ask(api.GET('/api/letters/{id}', { params: { path: { id: letterId ?? 0 } } })),
    enabled: letterId !== null,
  })
  const links = letter ? linksIn(letter.body) : []
  const without = ({ link: _link, ...rest }: Test) => rest
  return (
    <Popover
      words={test.link ? `on ${test.link.replace(/^https?:\/\//, '')}` : 'on any link'}
      label="Which link"
      className="word max-w-full truncate"
    >
      {(shut) => (
        <div className="w-72">
          <MenuList
            className="w-full"
            items={[{ value: '', words: 'any link' }, ...links.map((link) => ({ value: link, words: link }))]}
            onPick={(link) => {
              shut()
              onChange(link ? { ...test, link } : without(test))
            }}
          />
          {letterId === null && <p className="muted text-xs px-1.5 py-1">Choose the letter first to see its links.</p>}
          {letter && links.length === 0 && <p className="muted text-xs px-1.5 py-1">This letter has no link yet.</p>}
        </div>
      )}
    </Popover>
  )
}

function OutcomeChoice({ test, onChange }: { test: Test; onChange: (test: Test) => void }) {
  const { data } = useQuery({
    queryKey: ['own-words', 'outcomes'],
    queryFn: async () => (await ask(api.GET('/api/own-words/{kind}', { params: { path: { kind: 'outcomes' } } }))).words,
  })
  const without = ({ outcome: _outcome, ...rest }: Test) => rest
  const words = data?.find((one) => one.key === test.outcome)?.words ?? test.outcome
  return (
    <Popover words={words ? `with “${words}”` : 'whatever came of it'} label="With which outcome">
      {(shut) => (
        <MenuList
          items={[
            { value: '', words: 'whatever came of it' },
            ...(data ?? []).map((one) => ({ value: one.key, words: one.words })),
          ]}
          onPick={(outcome) => {
            shut()
            onChange(outcome ? { ...test, outcome } : without(test))
          }}
        />
      )}
    </Popover>
  )
}
