import { act } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { page } from '../testing/page'
import { FieldInput } from './FieldInput'
import { NameInPlace } from './NameInPlace'
import { useTyped } from './useTyped'

describe('useTyped', () => {
  const using = (first: string) => {
    let shown = first
    const { result, rerender } = page().use(() => useTyped(shown))
    const show = (next: string) => {
      shown = next
      rerender()
    }
    return { text: () => result.current.text, hook: () => result.current, show }
  }

  it('follows the value while nobody types', () => {
    const field = using('York')
    field.show('Hull')
    expect(field.text()).toBe('Hull')
  })

  it('keeps what is being typed when a colleague changes the value', () => {
    const field = using('York')
    act(() => field.hook().type('Leed'))
    field.show('Hull')
    expect(field.text()).toBe('Leed')
  })

  it('keeps what was refused, and follows what was kept', () => {
    const field = using('1200')
    act(() => field.hook().type('£1,300'))
    act(() => field.hook().leave())
    expect(field.text()).toBe('£1,300')
    field.show('1300')
    expect(field.text()).toBe('1300')
  })

  it('puts back the value as it is now', () => {
    const field = using('York')
    act(() => field.hook().type('Leed'))
    field.show('Hull')
    act(() => field.hook().putBack())
    expect(field.text()).toBe('Hull')
  })
})

describe('NameInPlace', () => {
  const name = (name: string) => {
    const onSave = vi.fn()
    const shown = page().show(<NameInPlace name={name} label="Name" onSave={onSave} />)
    return { onSave, field: shown.getByLabelText('Name') as HTMLInputElement, ...shown }
  }

  it('saves on Enter and on leaving, without the spaces around it', async () => {
    const { onSave, field } = name('Spring')
    await userEvent.type(field, ' fair {Enter}')
    expect(onSave).toHaveBeenCalledWith('Spring fair')
  })

  it('puts the name back on Escape, and when it is emptied', async () => {
    const { onSave, field } = name('Spring')
    await userEvent.type(field, 'x{Escape}')
    expect(field.value).toBe('Spring')
    await userEvent.clear(field)
    await userEvent.tab()
    expect(field.value).toBe('Spring')
    expect(onSave).not.toHaveBeenCalled()
  })

  it('does not turn round a colleague’s new name when one only passes through', async () => {
    const { onSave, field, rerender } = name('Spring')
    rerender(<NameInPlace name="Summer" label="Name" onSave={onSave} />)
    await userEvent.click(field)
    await userEvent.tab()
    expect(field.value).toBe('Summer')
    expect(onSave).not.toHaveBeenCalled()
  })
})

describe('FieldInput', () => {
  const field = (type: string, more = {}) => ({
    key: 'person.x',
    label: 'Some',
    type,
    choices: [
      { value: 'oak', words: 'Oak' },
      { value: 'felt', words: 'Felt' },
    ],
    phrases: {},
    uses: [],
    subject: 'person',
    sorted: true,
    retired: false,
    forms: [],
    ...more,
  })
  const input = (type: string, value: unknown) => {
    const onSave = vi.fn()
    const colleagues = [{ id: 7, name: 'Petra Lund' }]
    const shown = page().show(<FieldInput field={field(type) as never} value={value} colleagues={colleagues} onSave={onSave} />)
    return { onSave, ...shown }
  }

  it('saves text as one leaves it, and nothing when it is the same', async () => {
    const { onSave, getByLabelText } = input('text', 'York')
    await userEvent.click(getByLabelText('Some'))
    await userEvent.tab()
    expect(onSave).not.toHaveBeenCalled()
    await userEvent.type(getByLabelText('Some'), 'shire')
    await userEvent.tab()
    expect(onSave).toHaveBeenCalledWith('Yorkshire')
  })

  it('saves an emptied field as nothing', async () => {
    const { onSave, getByLabelText } = input('text', 'York')
    await userEvent.clear(getByLabelText('Some'))
    await userEvent.tab()
    expect(onSave).toHaveBeenCalledWith(null)
  })

  it('shows money in pounds', () => {
    const { getByLabelText } = input('money', 120050)
    expect((getByLabelText('Some') as HTMLInputElement).value).toBe('1200.5')
  })

  it('gives a colleague by number, and nobody as nothing', async () => {
    const { onSave, getByLabelText } = input('reference', null)
    await userEvent.selectOptions(getByLabelText('Some'), 'Petra Lund')
    expect(onSave).toHaveBeenLastCalledWith(7)
    await userEvent.selectOptions(getByLabelText('Some'), 'nobody')
    expect(onSave).toHaveBeenLastCalledWith(null)
  })

  it('ticks several choices in a menu that Escape shuts', async () => {
    const { onSave, getByRole, queryByRole } = input('choices', ['oak'])
    await userEvent.click(getByRole('button', { name: 'Some' }))
    await userEvent.click(getByRole('checkbox', { name: 'Felt' }))
    expect(onSave).toHaveBeenCalledWith(['oak', 'felt'])
    await userEvent.keyboard('{Escape}')
    expect(queryByRole('dialog')).toBeNull()
    expect(document.activeElement).toBe(getByRole('button', { name: 'Some' }))
  })

  it('keeps a long text on several lines', async () => {
    const { onSave, getByLabelText } = input('long_text', 'one')
    await userEvent.type(getByLabelText('Some'), '{Enter}two')
    await userEvent.tab()
    expect(onSave).toHaveBeenCalledWith('one\ntwo')
  })
})
