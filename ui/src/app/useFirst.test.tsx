import { act, renderHook } from '@testing-library/react'
import { expect, test, vi } from 'vitest'
import { useFirst } from './useFirst'

type Props = { first?: string }

function found(first?: string) {
  const take = vi.fn()
  const hook = renderHook(({ first }: Props) => useFirst(first, take), { initialProps: { first } as Props })
  return { take, hook }
}

test('Enter takes what is there', () => {
  const { take, hook } = found('a')
  expect(take).not.toHaveBeenCalled()
  act(() => hook.result.current.takeFirst())
  expect(take.mock.calls).toEqual([['a']])
})

test('Enter pressed too early takes what comes first, once', () => {
  const { take, hook } = found()
  act(() => hook.result.current.takeFirst())
  hook.rerender({ first: 'b' })
  hook.rerender({ first: 'c' })
  expect(take.mock.calls).toEqual([['b']])
})

test('other words are not what Enter was pressed for', () => {
  const { take, hook } = found()
  act(() => hook.result.current.takeFirst())
  act(() => hook.result.current.forget())
  hook.rerender({ first: 'b' })
  expect(take).not.toHaveBeenCalled()
})
