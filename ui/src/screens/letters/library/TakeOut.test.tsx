import { waitFor } from '@testing-library/react'
import { expect, test, vi } from 'vitest'
import { page } from '../../../testing/page'
import { standIn } from '../../../testing/server'
import { TakeOut } from './TakeOut'

test('what cannot go along is said before a letter is taken out, with the way to take all of it', async () => {
  standIn({ 'GET /api/letters/3/left-out': () => ({ body: { left_out: ['its language', 'how one field is written'] } }) })
  const onClose = vi.fn()
  const { findByText, getByRole } = page().show(<TakeOut letterId={3} format="md" onClose={onClose} />)
  expect(await findByText('its language')).toBeTruthy()
  expect(getByRole('button', { name: 'Take it out as Markdown' })).toBeTruthy()
  expect(getByRole('button', { name: 'As JSON: all of it' })).toBeTruthy()
  expect(onClose).not.toHaveBeenCalled()
})

test('a letter of which everything goes along is taken out without a question', async () => {
  standIn({ 'GET /api/letters/3/left-out': () => ({ body: { left_out: [] } }) })
  const onClose = vi.fn()
  page().show(<TakeOut letterId={3} format="html" onClose={onClose} />)
  await waitFor(() => expect(onClose).toHaveBeenCalled())
})
