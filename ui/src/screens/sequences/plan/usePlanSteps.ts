import { useEffect, useRef, useState } from 'react'
import type { Shape } from '../../../api/client'
import type { Change } from '../useChanges'
import { stepInput } from './plan'

type Input = Shape<'StepInput'>
const MOST = 100

/**
 * The steps of a plan with every change of them, so that each can be undone and done again. Changes that follow quickly are made on
 * those before them, saved or not. Once a colleague has changed the plan nothing older is undone: that would take theirs back too.
 *
 * @param error what became of the last change, if it went wrong
 */
export function usePlanSteps(sequence: Shape<'Sequence'>, onChange: (change: Change) => void, error: unknown = null) {
  const [past, setPast] = useState<Input[][]>([])
  const [future, setFuture] = useState<Input[][]>([])
  // What is on its way, and the version it will have been saved as.
  const pending = useRef<Input[] | null>(null)
  const expected = useRef(sequence.version)
  const forget = () => {
    pending.current = null
    setPast([])
    setFuture([])
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: only another version, or an error, says something
  useEffect(() => {
    if (error != null) {
      expected.current = sequence.version
      forget()
    } else if (sequence.version === expected.current) pending.current = null
    else if (sequence.version > expected.current) {
      expected.current = sequence.version
      forget()
    }
  }, [sequence.version, error])
  const now = () => pending.current ?? sequence.steps.map(stepInput)
  /** Any change of the sequence from this page. */
  const send = (change: Change) => {
    expected.current += 1
    if (change.steps) pending.current = change.steps
    onChange(change)
  }
  const put = (steps: Input[]) => {
    const before = now()
    if (JSON.stringify(steps) === JSON.stringify(before)) return
    setPast((all) => [...all, before].slice(-MOST))
    setFuture([])
    send({ steps })
  }
  const undo = () => {
    const before = past.at(-1)
    if (!before) return
    setPast(past.slice(0, -1))
    setFuture([...future, now()])
    send({ steps: before })
  }
  const redo = () => {
    const after = future.at(-1)
    if (!after) return
    setFuture(future.slice(0, -1))
    setPast([...past, now()])
    send({ steps: after })
  }
  return { now, put, send, undo, redo, canUndo: past.length > 0, canRedo: future.length > 0 }
}
