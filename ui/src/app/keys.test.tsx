import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { page } from '../testing/page'
import { type Key, KeysProvider, useKeys, useShownKeys, useUnsaved } from './keys'

function Screen({ keys }: { keys: Key[] }) {
  useKeys(keys)
  return (
    <>
      <input aria-label="Words" />
      <input aria-label="Chosen" type="checkbox" />
      <output>{useShownKeys().map((key) => key.words)}</output>
    </>
  )
}

function Guarded({ unsaved }: { unsaved: () => boolean }) {
  useUnsaved(unsaved)
  return null
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

  it('takes letters for commands when a box was just ticked', async () => {
    const run = vi.fn()
    const { getByLabelText } = page().show(screen([{ key: 'n', words: 'New', run }]))
    await userEvent.click(getByLabelText('Chosen'))
    await userEvent.keyboard('n')
    expect(run).toHaveBeenCalledTimes(1)
  })

  it('takes no letter for a command within a second after somebody typed into a field that is gone', async () => {
    vi.useFakeTimers()
    const run = vi.fn()
    const { getByLabelText } = page().show(screen([{ key: 'n', words: 'New', run }]))
    const press = (key: string, held = {}) =>
      (document.activeElement ?? document.body).dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, ...held }))
    const type = (key: string, held = {}) => {
      getByLabelText('Words').focus()
      press(key, held)
      ;(document.activeElement as HTMLElement).blur()
    }
    type('m')
    press('n')
    vi.advanceTimersByTime(999)
    press('n')
    expect(run).not.toHaveBeenCalled()
    vi.advanceTimersByTime(1)
    press('n')
    expect(run).toHaveBeenCalledTimes(1)
    // Ctrl Enter is a command, and so is what follows it.
    type('Enter', { ctrlKey: true })
    press('n')
    expect(run).toHaveBeenCalledTimes(2)
    vi.useRealTimers()
  })

  it('leads nowhere while something of the page is not saved', async () => {
    const [leave, stay] = [vi.fn(), vi.fn()]
    let unsaved = true
    page().show(
      <KeysProvider>
        <Screen
          keys={[
            { key: 'r', words: 'Results', leaves: true, run: leave },
            { key: 'n', words: 'New', run: stay },
          ]}
        />
        <Guarded unsaved={() => unsaved} />
      </KeysProvider>,
    )
    await userEvent.keyboard('rn')
    expect([leave.mock.calls.length, stay.mock.calls.length]).toEqual([0, 1])
    unsaved = false
    await userEvent.keyboard('r')
    expect(leave).toHaveBeenCalledTimes(1)
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
