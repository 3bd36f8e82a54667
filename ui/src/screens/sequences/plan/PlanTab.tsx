import { useEffect, useRef, useState } from 'react'
import { useSearchParams } from 'react-router'
import type { Shape } from '../../../api/client'
import { useKeys } from '../../../app/keys'
import { Empty } from '../../../parts/States'
import { WhoJoins } from '../joining/WhoJoins'
import { FirstLetter } from '../steps/LetterStep'
import { Notes } from '../steps/Notes'
import { type StepChange, StepPanel } from '../steps/StepPanel'
import type { Change } from '../useChanges'
import { AddHere } from './AddHere'
import * as edit from './edit'
import { AudienceSieve, PlanLine } from './PlanLine'
import { flat } from './plan'
import { Ruler } from './Ruler'
import { usePlanSteps } from './usePlanSteps'

type Sequence = Shape<'Sequence'>

const first = { branch: null, at: 0 }

/** The plan of a sequence, drawn on the ruler and edited step by step. */
export function PlanTab({
  sequence,
  editable,
  error,
  onChange,
  onMembers,
}: {
  /** As it is laid out, or, under way, as it is proposed. */
  sequence: Sequence
  editable: boolean
  /** What became of the last change, if it went wrong. */
  error: unknown
  onChange: (change: Change) => void
  onMembers: () => void
}) {
  const [params, setParams] = useSearchParams()
  const [sieve, setSieve] = useState(false)
  const [addAfter, setAddAfter] = useState<number | null>(null)
  const [closed, setClosed] = useState(false)
  const [picking, setPicking] = useState(false)
  const plan = usePlanSteps(sequence, onChange, error)
  const placed = flat(sequence.steps).map(({ step }) => step)
  const draft = sequence.state === 'draft'
  const asked = Number(params.get('step')) || null
  // The first one is open until somebody says otherwise.
  const chosen = sieve || closed ? undefined : (placed.find((step) => step.id === asked) ?? placed[0])
  // What was just put in has its number once it is saved; it is what one wants to say more of.
  const coming = useRef<{ order: number; of: number } | null>(null)
  const entered = useRef<number | null>(null)
  const choose = (id: number | null) => {
    setSieve(false)
    setAddAfter(null)
    setClosed(id === null)
    setParams(id ? { step: String(id) } : {}, { replace: true })
  }
  // A step that the address names is in sight.
  useEffect(() => {
    if (asked) document.querySelector(`[data-step="${asked}"]`)?.scrollIntoView?.({ block: 'nearest' })
  }, [asked])
  // biome-ignore lint/correctness/useExhaustiveDependencies: it looks only when the plan is another
  useEffect(() => {
    const wanted = coming.current
    if (!wanted || placed.length !== wanted.of) return
    coming.current = null
    entered.current = placed[wanted.order]?.id ?? null
    choose(entered.current)
  }, [sequence.steps])
  useEffect(() => {
    if (!chosen || entered.current !== chosen.id) return
    entered.current = null
    intoPanel()
  }, [chosen])
  const put = (next: Shape<'StepInput'>[], order?: number) => {
    if (order !== undefined) coming.current = { order, of: edit.inOrder(next).length }
    plan.put(next)
  }
  const now = plan.now
  const add = (kind: edit.Kind, place: edit.Place) => {
    setAddAfter(null)
    setSieve(false)
    put(edit.put(now(), place, edit.fresh(kind, now(), place)), edit.orderAt(now(), place))
  }
  const move = (id: number, place: edit.Place) => plan.put(edit.move(now(), id, place))
  const acts = (id: number) => ({
    up: () => plan.put(edit.moveBy(now(), id, -1)),
    down: () => plan.put(edit.moveBy(now(), id, 1)),
    copy: () => {
      const next = edit.copy(now(), id)
      const place = edit.placeOf(now(), id)
      if (place) put(next, edit.orderAt(now(), { ...place, at: place.at + 1 }))
    },
    out: () => {
      const at = placed.findIndex((step) => step.id === id)
      choose(placed[at + 1]?.id ?? placed[at - 1]?.id ?? null)
      plan.put(edit.takeOut(now(), id))
    },
    close: () => choose(null),
  })
  const go = (by: number) => {
    const at = placed.findIndex((step) => step.id === chosen?.id)
    const next = placed[at < 0 ? 0 : at + by]
    if (!next) return
    choose(next.id)
    document.querySelector<HTMLElement>(`[data-step="${next.id}"]`)?.scrollIntoView({ block: 'nearest' })
  }
  const ofChosen = (words: string, key: string, act: keyof ReturnType<typeof acts>) =>
    chosen && editable ? [{ key, words, run: () => acts(chosen.id)[act]() }] : []
  useKeys([
    { key: 'j', words: 'Next step', run: () => go(1) },
    { key: 'k', words: 'Step before', run: () => go(-1) },
    { key: 'Enter', words: 'Into the step beside', run: intoPanel },
    ...(editable && chosen ? [{ key: 'n', words: 'Add a step after this one', run: () => setAddAfter(chosen.id) }] : []),
    ...(editable && placed.length === 0 ? [{ key: 'n', words: 'Add a letter', run: () => add('letter', first) }] : []),
    ...ofChosen('Copy the step', 'c', 'copy'),
    ...ofChosen('Take the step out', 'x', 'out'),
    ...ofChosen('Move the step earlier', 'alt+ArrowUp', 'up'),
    ...ofChosen('Move the step later', 'alt+ArrowDown', 'down'),
    ...(editable
      ? [
          { key: 'ctrl+z', words: 'Undo', run: plan.undo },
          { key: 'ctrl+shift+z', words: 'Redo', run: plan.redo },
        ]
      : []),
  ])
  const changeStep = (id: number, change: StepChange) => {
    const step = edit.inOrder(now()).find((one) => one.id === id)
    if (step) plan.put(edit.change(now(), id, typeof change === 'function' ? change(step) : change))
  }
  return (
    <>
      <PlanLine
        sequence={sequence}
        editable={editable}
        onChange={plan.send}
        showSieve={() => (draft ? setSieve(!sieve) : onMembers())}
      />
      <div className="grow basis-0 min-h-64 !shrink grid grid-cols-[minmax(0,1fr)_340px] gap-5">
        <div className="overflow-y-auto pb-4 pr-1 pl-1 -ml-1">
          <WhoJoins sequence={sequence} />
          <Notes sequence={sequence} stepId={null} />
          {sequence.steps.length === 0 && (
            <Empty
              action={
                editable && (
                  <>
                    <button type="button" className="btn btn-sm btn-primary" onClick={() => setPicking(true)}>
                      Choose a letter…
                    </button>{' '}
                    <button type="button" className="btn btn-sm btn-plain" onClick={() => add('letter', first)}>
                      Add a letter
                    </button>
                  </>
                )
              }
            >
              No step in it yet. Choose a letter that goes to them once, or add the first of several steps; the ruler lays it out
              by itself.
            </Empty>
          )}
          {editable && sequence.steps.length > 0 && (
            <div className="flex items-center gap-2 mb-1">
              <AddHere place={first} behind="joining" open={false} onAdd={add} onDrop={move} />
              <span className="muted text-xs grow">before everything else</span>
              <button type="button" className="btn btn-xs btn-plain" disabled={!plan.canUndo} onClick={plan.undo}>
                Undo
              </button>
              <button type="button" className="btn btn-xs btn-plain" disabled={!plan.canRedo} onClick={plan.redo}>
                Redo
              </button>
            </div>
          )}
          {sequence.steps.length > 0 && (
            <Ruler
              sequence={sequence}
              chosen={chosen?.id ?? null}
              addAfter={addAfter}
              onChoose={choose}
              {...(editable ? { onAdd: add, onMove: move } : {})}
            />
          )}
        </div>
        {picking && (
          <FirstLetter
            sequence={sequence}
            onTake={(letter_id) => {
              put([{ ...edit.fresh('letter', now(), first), letter_id }], 0)
              setPicking(false)
            }}
            onClose={() => setPicking(false)}
          />
        )}
        {sieve && (
          <aside className="border-l border-base-300 pl-5 overflow-y-auto">
            <AudienceSieve audience={sequence.audience} />
            <button type="button" className="btn btn-xs btn-plain mt-3" onClick={() => setSieve(false)}>
              Close
            </button>
          </aside>
        )}
        {chosen && (
          <div className="overflow-y-auto pb-4 pr-1 [&>aside]:min-h-full" data-panel>
            <StepPanel
              key={chosen.id}
              sequence={sequence}
              step={chosen}
              editable={editable}
              acts={acts(chosen.id)}
              onChange={(change) => changeStep(chosen.id, change)}
            />
          </div>
        )}
      </div>
    </>
  )
}

function intoPanel() {
  document.querySelector<HTMLElement>('[data-panel] :is(button, input, select, textarea)')?.focus()
}
