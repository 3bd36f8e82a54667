import { act, waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { expect, test, vi } from 'vitest'
import { page } from '../../../testing/page'
import { type Asked, standIn } from '../../../testing/server'
import { LetterPick } from './LetterPick'

const letter = (id: number, name: string) => ({ id, name, subject: `${name} for you` })

test('Enter takes the letter that the words find, and not what was shown before them', async () => {
  let answer = () => {}
  const searched = new Promise<void>((done) => {
    answer = done
  })
  standIn({
    'GET /api/letters': async ({ query }: Asked) => {
      if (!query.words) return { body: { letters: [letter(1, 'Cold call'), letter(2, 'Price list')] } }
      await searched
      return { body: { letters: [letter(2, 'Price list')] } }
    },
  })
  const onPick = vi.fn()
  const nothing = () => undefined
  const { findByText, getByLabelText } = page().show(
    <LetterPick chosen={null} onPick={onPick} onCopy={nothing} onNew={nothing} onClose={nothing} />,
  )
  await findByText('Cold call', { selector: 'span' })
  await userEvent.type(getByLabelText('Find a letter'), 'price{Enter}')
  expect(onPick).not.toHaveBeenCalled()
  await act(async () => answer())
  await waitFor(() => expect(onPick.mock.calls).toEqual([[2]]))
})
