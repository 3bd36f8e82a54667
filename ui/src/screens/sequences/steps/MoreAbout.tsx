import { type ReactNode, useState } from 'react'
import type { Shape } from '../../../api/client'
import { Popover } from '../../../parts/Popover'
import { useTyped } from '../../../parts/useTyped'
import { ConditionDialog } from './ConditionDialog'

type Step = Shape<'Step'>
type Update = (change: Partial<Step>) => void
const DAY_SECONDS = 86_400

function Tick({ checked, onChange, children }: { checked: boolean; onChange: (on: boolean) => void; children: ReactNode }) {
  return (
    <label className="flex gap-2 items-center py-1">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={checked}
        onChange={(event) => onChange(event.target.checked)}
      />
      {children}
    </label>
  )
}

/** For whom a step is. */
export function OnlyFor({ step, editable, onChange }: { step: Step; editable: boolean; onChange: Update }) {
  const [asking, setAsking] = useState(false)
  const words = step.only_for ? (step.only_for_words ?? 'whom its condition is true of') : 'everyone who comes to it'
  if (!editable) return step.only_for ? <p className="mt-3">Only for {words}; others pass it by.</p> : null
  return (
    <div className="mt-3">
      <span className="field-label">Only for</span>
      <span className="bg-[var(--sheet)] border border-base-300 rounded-sm px-2.5 py-1.5 flex justify-between gap-2">
        <button type="button" className="word text-left" onClick={() => setAsking(true)}>
          {words}
        </button>
        {step.only_for && (
          <button type="button" className="muted text-xs" onClick={() => onChange({ only_for: null })}>
            for everyone
          </button>
        )}
      </span>
      {asking && (
        <ConditionDialog
          title="Only for whom? Others pass this step by."
          condition={step.only_for ?? null}
          keep="Only for them"
          onKeep={(only_for) => onChange({ only_for })}
          onClose={() => setAsking(false)}
        />
      )}
    </div>
  )
}

/** How late it may be at most. */
function NotAfter({ step, onChange }: { step: Step; onChange: Update }) {
  const seconds = step.not_after?.seconds
  const days = seconds == null ? null : Math.round(seconds / DAY_SECONDS)
  const { text, type, leave } = useTyped(days === null ? '' : String(days))
  return (
    <p className="py-0.5">
      If it is held up,{' '}
      <Popover
        words={days === null ? 'it goes however late' : `skip it after ${days} ${days === 1 ? 'day' : 'days'}`}
        label="If it is held up"
      >
        {(shut) => (
          <div className="w-60">
            <label className="flex items-center gap-1.5">
              skip it after
              <input
                type="number"
                min={0}
                aria-label="Days"
                className="text-field !w-16"
                value={text}
                onBlur={leave}
                onChange={(event) => {
                  type(event.target.value)
                  const typed = Math.trunc(Number(event.target.value))
                  if (event.target.value !== '' && typed >= 0) onChange({ not_after: { seconds: typed * DAY_SECONDS } })
                }}
              />
              days
            </label>
            <button
              type="button"
              className="block w-full text-left px-1.5 py-1 mt-1 rounded-sm hover:bg-base-200"
              onClick={() => {
                onChange({ not_after: null })
                shut()
              }}
            >
              it goes however late
            </button>
          </div>
        )}
      </Popover>
      .
    </p>
  )
}

/** What else can be said of a step: how late it may be, and of a letter whether somebody looks first. */
export function MoreAbout({ step, editable, onChange }: { step: Step; editable: boolean; onChange: Update }) {
  if (!editable) return step.look_first ? <p className="mt-2 muted">Its letters wait until somebody has looked at them.</p> : null
  return (
    <div className="mt-3 text-[13px]">
      {step.kind === 'letter' && (
        <>
          <Tick checked={step.look_first ?? false} onChange={(look_first) => onChange({ look_first })}>
            Let me look first: each waits until I say so
          </Tick>
          <Tick checked={step.same_thread ?? false} onChange={(same_thread) => onChange({ same_thread })}>
            As an answer to the letter before it
          </Tick>
          <Tick checked={step.without_it ?? false} onChange={(without_it) => onChange({ without_it })}>
            Go on without it if the server gives up
          </Tick>
        </>
      )}
      <NotAfter step={step} onChange={onChange} />
    </div>
  )
}
