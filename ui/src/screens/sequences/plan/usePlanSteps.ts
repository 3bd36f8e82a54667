import { useState } from 'react'
import type { Shape } from '../../../api/client'
import type { Change } from '../useSequence'
import { stepInput } from './plan'

type Input = Shape<'StepInput'>
const MOST = 100

/** The steps of a plan with every change of them, so that each can be undone and done again. */
export function usePlanSteps(sequence: Shape<'Sequence'>, onChange: (change: Change) => void) {
  const [past, setPast] = useState<Input[][]>([])
  const [future, setFuture] = useState<Input[][]>([])
  const now = () => sequence.steps.map(stepInput)
  const put = (steps: Input[]) => {
    if (JSON.stringify(steps) === JSON.stringify(now())) return
    setPast([...past, now()].slice(-MOST))
    setFuture([])
    onChange({ steps })
  }
  const undo = () => {
    const before = past.at(-1)
    if (!before) return
    setPast(past.slice(0, -1))
    setFuture([...future, now()])
    onChange({ steps: before })
  }
  const redo = () => {
    const after = future.at(-1)
    if (!after) return
    setFuture(future.slice(0, -1))
    setPast([...past, now()])
    onChange({ steps: after })
  }
  return { put, undo, redo, canUndo: past.length > 0, canRedo: future.length > 0 }
}
