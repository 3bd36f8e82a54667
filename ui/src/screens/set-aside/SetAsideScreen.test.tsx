import { within } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it } from 'vitest'
import { SessionProvider } from '../../app/session'
import { page } from '../../testing/page'
import { standIn } from '../../testing/server'
import { SetAsideScreen } from './SetAsideScreen'

const AT = { tries: 1, first_at: '2026-05-12T09:00:00Z', last_at: '2026-05-12T09:00:00Z', again: false }
const letter = (id: number, name: string) => ({
  ...AT,
  id,
  kind: 'letter',
  reason: 'The mail server refused it: 554 relaying denied',
  person: { id, name },
  letter: 'A word',
  sequence: { id: 4, name: 'Quieter rooms' },
})

function screen(things: object[]) {
  const server = standIn({
    'GET /api/set-aside': () => ({ body: { things, total: things.length } }),
    'GET /api/set-aside/9': () => ({ body: { id: 9, reason: 'x', detail: 'KeyError: x', source: 'From: <<<>>>,,;' } }),
    'PUT /api/steps/7/stack/1/fills': () => ({ body: {} }),
    'POST /api/set-aside/again': () => ({ body: { taken: 1 } }),
    'POST /api/set-aside/leave': () => ({ body: { taken: 2 } }),
  })
  const shown = page('/set-aside').show(
    <SessionProvider session={{ firm: { time_zone: 'Europe/London' } } as never}>
      <SetAsideScreen />
    </SessionProvider>,
  )
  return { server, ...shown }
}

describe('SetAsideScreen', () => {
  it('has those with the same reason tried again together, or one alone', async () => {
    const { server, findByRole, getAllByRole } = screen([letter(1, 'Ana Lark'), letter(2, 'Bram Oduya')])
    await userEvent.click(await findByRole('button', { name: 'Try all 2 again' }))
    await userEvent.click(getAllByRole('button', { name: 'Try again' })[1] as HTMLElement)

    expect(server.of('POST')).toEqual([{ ids: [1, 2] }, { ids: [2] }])
  })

  it('asks once, with the number, before anybody goes on without their letter', async () => {
    const { server, findByRole, findByText, getByRole } = screen([letter(1, 'Ana Lark'), letter(2, 'Bram Oduya')])
    await userEvent.click(await findByRole('button', { name: 'Go on without them' }))
    await findByText(/2 people will not get it/)
    expect(server.of('POST')).toEqual([])
    await userEvent.click(within(getByRole('dialog')).getByRole('button', { name: 'Go on without' }))

    expect(server.of('POST')).toEqual([{ ids: [1, 2] }])
  })

  it('has gaps filled where they are shown, one after the other, for this letter only', async () => {
    const gap = { step_id: 7, fields: ['person.city', 'person.phone'] }
    const { server, findByRole, queryByRole } = screen([
      { ...letter(1, 'Ana Lark'), reason: 'Nothing to put in for: city.', gap },
    ])
    await userEvent.click(await findByRole('button', { name: 'Fill' }))
    await userEvent.type(await findByRole('textbox', { name: /person.city/ }), 'Whitby')
    await userEvent.click(await findByRole('button', { name: 'Only in this letter' }))

    await userEvent.type(await findByRole('textbox', { name: /person.phone/ }), '1')
    await userEvent.click(await findByRole('button', { name: 'Only in this letter' }))

    expect(server.of('PUT')).toEqual([
      { field: 'person.city', value: 'Whitby' },
      { field: 'person.phone', value: '1' },
    ])
    expect(queryByRole('textbox')).toBeNull()
  })

  it('shows how a piece of mail begins, and what went wrong', async () => {
    const { findByRole, findByText } = screen([{ ...AT, id: 9, kind: 'mail', reason: 'x', about: 'From: nobody' }])
    await userEvent.click(await findByRole('button', { name: 'Look' }))

    await findByText('From: <<<>>>,,;')
    await findByText('KeyError: x')
  })

  it('offers to leave nothing half done, and says what is being tried', async () => {
    const { findByText, queryByRole } = screen([
      { ...AT, id: 1, kind: 'file', reason: 'gone' },
      { ...AT, id: 2, kind: 'mail', reason: 'y', again: true },
    ])
    await findByText('is tried again…')
    expect(queryByRole('button', { name: 'Leave it' })).toBeNull()
  })

  it('says so when nothing is set aside', async () => {
    await screen([]).findByText('Nothing is set aside.')
  })
})
