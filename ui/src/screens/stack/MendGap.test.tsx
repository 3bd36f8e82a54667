import { waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import { page } from '../../testing/page'
import { OVERTAKEN, standIn } from '../../testing/server'
import { MendGap } from './MendGap'

const CATALOGUE = {
  fields: [
    { key: 'person.city', label: 'City', subject: 'person', uses: ['import', 'merge'] },
    { key: 'company.name', label: 'Company', subject: 'company', uses: ['merge'] },
    { key: 'lookup.weather', label: 'Weather', subject: 'lookup', uses: ['merge'] },
  ],
}

function gap(field: string, answers = {}) {
  const onClose = vi.fn()
  const server = standIn({
    'GET /api/catalogue': () => ({ body: CATALOGUE }),
    'GET /api/people/4': () => ({ body: { id: 4, name: 'Ana Lark', version: 6 } }),
    'PATCH /api/people/4': () => ({ body: { id: 4, name: 'Ana Lark', version: 7 } }),
    'PUT /api/steps/2/stack/4/fills': () => ({ body: {} }),
    ...answers,
  })
  return { server, onClose, ...page().show(<MendGap stepId={2} personId={4} field={field} onClose={onClose} />) }
}

describe('MendGap', () => {
  it('fills the record, on the version one has seen', async () => {
    const { server, onClose, findByLabelText, getByRole } = gap('person.city')
    await userEvent.type(await findByLabelText('City of Ana Lark'), 'Hull{Enter}')
    await waitFor(() => expect(onClose).toHaveBeenCalled())
    expect(server.of('PATCH')).toEqual([{ values: { 'person.city': 'Hull' }, version: 6 }])
    expect(getByRole('button', { name: 'Into the record' })).toBeTruthy()
  })

  it('names the company of the person, not the company’s name', async () => {
    const { server, findByLabelText } = gap('company.name')
    await userEvent.type(await findByLabelText('Company of Ana Lark'), 'The Copper Ladle{Enter}')
    await waitFor(() => expect(server.of('PATCH')).toEqual([{ values: { 'person.company': 'The Copper Ladle' }, version: 6 }]))
  })

  it('fills this letter only', async () => {
    const { server, onClose, findByLabelText, getByRole } = gap('person.city')
    await userEvent.type(await findByLabelText('City of Ana Lark'), 'by the sea')
    await userEvent.click(getByRole('button', { name: 'Only in this letter' }))
    await waitFor(() => expect(onClose).toHaveBeenCalled())
    expect([server.of('PUT'), server.of('PATCH')]).toEqual([[{ field: 'person.city', value: 'by the sea' }], []])
  })

  it('knows what no record holds', async () => {
    const { findByLabelText, queryByRole } = gap('lookup.weather')
    await findByLabelText('Weather of Ana Lark')
    expect(queryByRole('button', { name: 'Into the record' })).toBeNull()
  })

  it('keeps what was typed when a colleague was quicker', async () => {
    const { onClose, findByLabelText, findByRole } = gap('person.city', { 'PATCH /api/people/4': () => OVERTAKEN })
    const field = (await findByLabelText('City of Ana Lark')) as HTMLInputElement
    await userEvent.type(field, 'Hull{Enter}')
    expect((await findByRole('alert')).textContent).toContain('Petra changed this meanwhile.')
    expect([field.value, onClose.mock.calls.length]).toEqual(['Hull', 0])
  })

  it('is left with Escape, and fills nothing with nothing', async () => {
    const { server, onClose, findByLabelText } = gap('person.city')
    await userEvent.type(await findByLabelText('City of Ana Lark'), '  {Enter}')
    expect(server.of('PATCH')).toEqual([])
    await userEvent.keyboard('{Escape}')
    expect(onClose).toHaveBeenCalled()
  })
})
