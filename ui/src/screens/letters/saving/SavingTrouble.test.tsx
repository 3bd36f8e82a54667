import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { ApiProblem } from '../../../api/client'
import { page } from '../../../testing/page'
import { SavingTrouble } from './SavingTrouble'

describe('SavingTrouble', () => {
  const trouble = (status: number, code: string, message = 'What was wrong.') => {
    const [onKeepMine, onTakeTheirs] = [vi.fn(), vi.fn()]
    const saving = { state: 'problem', problem: new ApiProblem(status, code, message) } as const
    const shown = page().show(<SavingTrouble kind="letter" saving={saving} onKeepMine={onKeepMine} onTakeTheirs={onTakeTheirs} />)
    return { onKeepMine, onTakeTheirs, ...shown }
  }

  it('is silent while all is well', () => {
    const shown = page().show(
      <SavingTrouble kind="letter" saving={{ state: 'typing' }} onKeepMine={vi.fn()} onTakeTheirs={vi.fn()} />,
    )
    expect(shown.container.textContent).toBe('')
  })

  it('leaves the choice when a colleague was quicker', async () => {
    const { onKeepMine, onTakeTheirs, getByRole } = trouble(409, 'changed_meanwhile')
    expect(getByRole('alert').textContent).toContain('Both texts are kept')
    await userEvent.click(getByRole('button', { name: 'Go on with mine' }))
    await userEvent.click(getByRole('button', { name: 'Go on with theirs' }))
    expect([onKeepMine.mock.calls.length, onTakeTheirs.mock.calls.length]).toEqual([1, 1])
  })

  it.each([
    [0, 'no_answer'],
    [503, 'database_away'],
  ])('says that nothing is lost when the server is away (%i)', (status, code) => {
    expect(trouble(status, code).getByRole('alert').textContent).toContain('kept on this machine')
  })

  it('says what is wrong with what was typed', () => {
    expect(trouble(422, 'link_unclear', 'A link leads nowhere.').getByRole('alert').textContent).toContain(
      'A link leads nowhere.',
    )
  })
})
