import { act } from '@testing-library/react'
import { describe, expect, it, vi } from 'vitest'
import type { Shape } from '../../../api/client'
import { page } from '../../../testing/page'
import { usePlanSteps } from './usePlanSteps'

type Sequence = Shape<'Sequence'>
const plan = (version: number, ...ids: number[]) =>
  ({ version, steps: ids.map((id) => ({ id, kind: 'fork', lanes: [] })) }) as unknown as Sequence
const step = (id: number) => ({ id, kind: 'fork' as const, lanes: [], within: null })

function used(first: Sequence) {
  const sent = vi.fn()
  let shown = first
  let error: unknown = null
  const hook = page().use(() => usePlanSteps(shown, sent, error))
  const show = (next: Sequence, wrong: unknown = null) => {
    shown = next
    error = wrong
    hook.rerender()
  }
  const ids = () => hook.result.current.now().map((one) => one.id)
  return { sent, show, ids, plan: () => hook.result.current }
}

describe('the steps of a plan', () => {
  it('are undone and done again', () => {
    const { sent, show, plan: steps } = used(plan(1, 1))
    act(() => steps().put([step(1), step(2)]))
    show(plan(2, 1, 2))
    act(() => steps().undo())
    expect(sent).toHaveBeenLastCalledWith({ steps: [step(1)] })
    show(plan(3, 1))
    act(() => steps().redo())
    expect(sent).toHaveBeenLastCalledWith({ steps: [step(1), step(2)] })
    expect([steps().canUndo, steps().canRedo]).toEqual([true, false])
  })

  it('are changed on what is on its way, so that a quick change loses none before it', () => {
    const { show, ids, plan: steps } = used(plan(1, 1))
    act(() => steps().put([...steps().now(), step(-2)]))
    act(() => steps().put([...steps().now(), step(-3)]))
    expect(ids()).toEqual([1, -2, -3])
    show(plan(3, 1, 20, 30))
    expect(ids()).toEqual([1, 20, 30])
    expect(steps().canUndo).toBe(true)
  })

  it('do not take back what a colleague did', () => {
    const { show, plan: steps } = used(plan(1, 1))
    act(() => steps().put([step(1), step(2)]))
    show(plan(5, 1, 2, 9))
    expect(steps().canUndo).toBe(false)
  })

  it('are those of the server again when a change went wrong', () => {
    const { show, ids, plan: steps } = used(plan(1, 1))
    act(() => steps().put([step(1), step(2)]))
    show(plan(1, 1), new Error('away'))
    expect([ids(), steps().canUndo]).toEqual([[1], false])
  })

  it('say nothing when nothing changes', () => {
    const { sent, plan: steps } = used(plan(1, 1))
    act(() => steps().put(steps().now()))
    expect(sent).not.toHaveBeenCalled()
  })
})
