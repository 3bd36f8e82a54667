import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { page } from '../testing/page'
import { type Key, KeysProvider, useKeys, useShownKeys } from './keys'

function Screen({ keys }: { keys: Key[] }) {
  useKeys(keys)
  return (
    <>
      <input aria-label="Words" />
      <output>{useShownKeys().map((key) => key.words)}</output>
    </>
  )
}

const screen = (keys: Key[]) => (
  <KeysProvider>
    <Screen keys={keys} />
  </KeysProvider>
)

describe('useKeys', () => {
  it('runs what a key stands for, in small and large letters', async () => {
    const run = vi.fn()
    page().show(screen([{ key: 'n', words: 'New', run }]))
    await userEvent.keyboard('nN')
    expect(run).toHaveBeenCalledTimes(2)
  })

  it('leaves letters to whoever types, and keys held with others to the browser', async () => {
    const run = vi.fn()
    const { getByLabelText } = page().show(screen([{ key: 'n', words: 'New', run }]))
    await userEvent.type(getByLabelText('Words'), 'n')
    await userEvent.click(document.body)
    await userEvent.keyboard('{Control>}n{/Control}{Alt>}n{/Alt}')
    expect(run).not.toHaveBeenCalled()
  })

  it('is silent while a question stands before the page', async () => {
    const run = vi.fn()
    page().show(
      <>
        {screen([{ key: 'n', words: 'New', run }])}
        <dialog open />
      </>,
    )
    await userEvent.keyboard('n')
    expect(run).not.toHaveBeenCalled()
  })

  it('runs what the screen means now, though the key stayed the same', async () => {
    const [first, second] = [vi.fn(), vi.fn()]
    const { rerender } = page().show(screen([{ key: 'n', words: 'New', run: first }]))
    rerender(screen([{ key: 'n', words: 'New', run: second }]))
    await userEvent.keyboard('n')
    expect([first.mock.calls.length, second.mock.calls.length]).toEqual([0, 1])
  })

  it('knows the keys of the screen one is on, and forgets them with it', async () => {
    const run = vi.fn()
    const { rerender, getByRole } = page().show(screen([{ key: 'n', words: 'New', run }]))
    expect(getByRole('status').textContent).toBe('New')
    rerender(screen([{ key: 'x', words: 'Other', run }]))
    expect(getByRole('status').textContent).toBe('Other')
    await userEvent.keyboard('n')
    expect(run).not.toHaveBeenCalled()
  })
})
