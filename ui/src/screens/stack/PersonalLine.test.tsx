import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { ApiProblem } from '../../api/client'
import { page } from '../../testing/page'
import { PersonalLine } from './PersonalLine'

function line(props: Partial<Parameters<typeof PersonalLine>[0]> = {}) {
  const [onSave, onClose] = [vi.fn(), vi.fn()]
  const places = ['Dear [first name],', 'how is the room?', 'Yours']
  const shown = page().show(
    <PersonalLine
      line=""
      after={null}
      places={places}
      saving={false}
      error={null}
      onSave={onSave}
      onClose={onClose}
      {...props}
    />,
  )
  return { onSave, onClose, ...shown, words: shown.getByRole('textbox') as HTMLTextAreaElement }
}

describe('PersonalLine', () => {
  it('can be typed into at once, and is put in after the first words', async () => {
    const { onSave, words, getByRole } = line()
    expect(document.activeElement).toBe(words)
    await userEvent.keyboard('Good to see you.')
    await userEvent.click(getByRole('button', { name: 'Put it in' }))
    expect(onSave).toHaveBeenCalledWith('Good to see you.', null)
  })

  it('may stand after any block of the letter', async () => {
    const { onSave, getByRole } = line({ line: 'Here.' })
    await userEvent.selectOptions(getByRole('combobox'), 'how is the room?')
    await userEvent.click(getByRole('button', { name: 'Put it in' }))
    expect(onSave).toHaveBeenCalledWith('Here.', 'how is the room?')
  })

  it('names a place that is gone', () => {
    const { getByRole } = line({ after: 'an old block' })
    expect((getByRole('combobox') as HTMLSelectElement).selectedOptions[0]?.textContent).toBe('an old block (gone)')
  })

  it('is saved with Control and Enter, and left with Escape', async () => {
    const { onSave, onClose } = line()
    await userEvent.keyboard('One{Enter}two{Control>}{Enter}{/Control}')
    expect(onSave).toHaveBeenCalledWith('One\ntwo', null)
    await userEvent.keyboard('{Escape}')
    expect(onClose).toHaveBeenCalled()
  })

  it('says what was wrong and keeps what was typed', () => {
    const { getByRole, words } = line({ line: 'Kept', error: new ApiProblem(422, 'late', 'The letter is out already.') })
    expect(getByRole('alert').textContent).toContain('The letter is out already.')
    expect(words.value).toBe('Kept')
  })

  it('is not put in twice while it is saved', () => {
    expect((line({ saving: true }).getByRole('button', { name: 'Put it in' }) as HTMLButtonElement).disabled).toBe(true)
  })
})
