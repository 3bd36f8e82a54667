import { act } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { describe, expect, it, vi } from 'vitest'
import { page } from '../testing/page'
import { Choices } from './Choices'
import { MenuList } from './MenuList'
import { Modal } from './Modal'
import { Popover } from './Popover'
import { Segments } from './Segments'

const TREES = ['oak', 'ash', 'elm', 'fir', 'yew', 'box', 'bay', 'fig'].map((word) => ({ value: word, words: word }))

function Ticking({ typed = false, first = [] as string[] }) {
  const [chosen, setChosen] = useState<(string | number)[]>(first)
  return (
    <>
      <Choices label="Trees" options={TREES} chosen={chosen} typed={typed} onChange={setChosen} />
      <output>{chosen.join(' ')}</output>
    </>
  )
}
describe('Choices', () => {
  const ticking = (props = {}) => page().show(<Ticking {...props} />)

  it('ticks and unticks', async () => {
    const { getByRole } = ticking()
    for (const name of ['oak', 'elm', 'oak']) await userEvent.click(getByRole('checkbox', { name }))
    expect(getByRole('status').textContent).toBe('elm')
  })

  it('narrows a long list as one types, and Enter takes the first', async () => {
    const { getByRole, getAllByRole } = ticking()
    await userEvent.type(getByRole('textbox'), 'F')
    expect(getAllByRole('checkbox').length).toBe(2)
    await userEvent.keyboard('{Enter}')
    expect(getByRole('status').textContent).toBe('fir')
    expect((getByRole('textbox') as HTMLInputElement).value).toBe('')
  })

  it('takes a word of one’s own only where that is meant', async () => {
    const open = ticking({ typed: true })
    await userEvent.type(open.getByRole('textbox'), ' beech {Enter}')
    expect(open.getByRole('status').textContent).toBe('beech')
    open.unmount()
    const shut = ticking()
    await userEvent.type(shut.getByRole('textbox'), 'beech{Enter}')
    expect(shut.getByRole('status').textContent).toBe('')
    expect(shut.container.textContent).toContain('Nothing of that name.')
    expect((shut.getByRole('textbox') as HTMLInputElement).value).toBe('beech')
  })

  it('shows what was chosen and is offered no longer, so that it can be taken out', async () => {
    const { getByRole } = ticking({ first: ['beech'] })
    await userEvent.click(getByRole('checkbox', { name: 'beech' }))
    expect(getByRole('status').textContent).toBe('')
  })
})

describe('Popover', () => {
  const popover = () =>
    page().show(
      <>
        <Popover words="City" label="Choose a city">
          {(shut) => (
            <button type="button" onClick={shut}>
              York
            </button>
          )}
        </Popover>
        <p>elsewhere</p>
      </>,
    )

  it('opens with the focus within, and gives it back', async () => {
    const { getByRole, queryByRole } = popover()
    const opener = getByRole('button', { name: 'Choose a city' })
    await userEvent.click(opener)
    expect(opener.getAttribute('aria-expanded')).toBe('true')
    expect(document.activeElement).toBe(getByRole('button', { name: 'York' }))
    await userEvent.click(getByRole('button', { name: 'York' }))
    expect([queryByRole('dialog'), document.activeElement]).toEqual([null, opener])
  })

  it('shuts with Escape, with a click elsewhere, and with its own word', async () => {
    const { getByRole, getByText, queryByRole } = popover()
    const opener = getByRole('button', { name: 'Choose a city' })
    for (const shut of [
      () => userEvent.keyboard('{Escape}'),
      () => userEvent.click(getByText('elsewhere')),
      () => userEvent.click(opener),
    ]) {
      await userEvent.click(opener)
      expect(getByRole('dialog')).toBeTruthy()
      await shut()
      expect(queryByRole('dialog')).toBeNull()
    }
  })

  it('is the only one that is open: the focus in another shuts it, the focus around it does not', async () => {
    const { getByRole, getByTestId, queryByRole } = page().show(
      <div tabIndex={-1} data-testid="around">
        {['City', 'Tag'].map((name) => (
          <Popover key={name} words={name} label={name}>
            {() => <button type="button">first {name}</button>}
          </Popover>
        ))}
      </div>,
    )
    await userEvent.click(getByRole('button', { name: 'City' }))
    act(() => getByTestId('around').focus())
    expect(queryByRole('dialog', { name: 'City' })).toBeTruthy()
    act(() => getByRole('button', { name: 'Tag' }).focus())
    await userEvent.keyboard('{Enter}')
    expect(queryByRole('dialog', { name: 'Tag' })).toBeTruthy()
    expect(queryByRole('dialog', { name: 'City' })).toBeNull()
  })

  it('gives the focus where it is told, and may be left out of what Tab leads through', async () => {
    const back = vi.fn()
    const { getByRole } = page().show(
      <Popover words="City" label="City" untabbed back={back}>
        {(shut) => (
          <>
            <button type="button" onClick={shut}>
              done
            </button>
            <input aria-label="said first" data-first />
          </>
        )}
      </Popover>,
    )
    await userEvent.tab()
    expect(document.activeElement).toBe(document.body)
    await userEvent.click(getByRole('button', { name: 'City' }))
    expect(document.activeElement).toBe(getByRole('textbox', { name: 'said first' }))
    await userEvent.click(getByRole('button', { name: 'done' }))
    expect(back).toHaveBeenCalledTimes(1)
  })
})

describe('Segments and MenuList', () => {
  it('say which way is chosen, and hand back the one that is picked', async () => {
    const onChoose = vi.fn()
    const { getByRole } = page().show(
      <Segments
        label="Width"
        chosen="desk"
        onChoose={onChoose}
        options={[
          { value: 'desk', words: 'Desk' },
          { value: 'phone', words: 'Phone' },
        ]}
      />,
    )
    expect(getByRole('button', { name: 'Desk' }).getAttribute('aria-pressed')).toBe('true')
    await userEvent.click(getByRole('button', { name: 'Phone' }))
    expect(onChoose).toHaveBeenCalledWith('phone')
  })

  it('hand back values, whatever their words', async () => {
    const onPick = vi.fn()
    const { getByRole } = page().show(<MenuList items={[{ value: 3, words: <b>Three</b> }]} onPick={onPick} />)
    await userEvent.click(getByRole('button', { name: 'Three' }))
    expect(onPick).toHaveBeenCalledWith(3)
  })
})

describe('a question asked from a menu', () => {
  it('stands in front of the page, and the menu stays open behind it', async () => {
    const onClose = vi.fn()
    const { getByRole, queryByText, container } = page().show(
      <Popover words="City" label="Choose a city">
        {() => (
          <Modal title="Who" onClose={onClose}>
            <button type="button">Ana Lark</button>
          </Modal>
        )}
      </Popover>,
    )
    await userEvent.click(getByRole('button', { name: 'Choose a city' }))
    expect(container.querySelector('dialog')).toBeNull()
    await userEvent.click(getByRole('button', { name: 'Ana Lark' }))
    expect(queryByText('Ana Lark')).not.toBeNull()
  })
})
