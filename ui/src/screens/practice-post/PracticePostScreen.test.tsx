import userEvent from '@testing-library/user-event'
import { Route, Routes } from 'react-router'
import { describe, expect, it } from 'vitest'
import { KeysProvider } from '../../app/keys'
import { SessionProvider } from '../../app/session'
import { page } from '../../testing/page'
import { standIn } from '../../testing/server'
import { PracticePostScreen } from './PracticePostScreen'

const LETTERS = Array.from({ length: 130 }, (_, i) => ({
  id: 130 - i,
  to: `person${130 - i}@house.example`,
  subject: `Letter ${130 - i}`,
  test: false,
  received_at: '2026-05-12T09:00:00Z',
}))

function post() {
  const server = standIn({
    'GET /api/practice/letters': ({ query }) => {
      const found = LETTERS.filter((one) => one.id < Number(query.before ?? 1000) && one.to.includes(query.words ?? ''))
      return { body: { letters: found.slice(0, 60), next_before: found.length > 60 ? found[59]?.id : null } }
    },
    ...Object.fromEntries(
      LETTERS.map((one) => [
        `GET /api/practice/letters/${one.id}`,
        () => ({ body: { ...one, text: `Text of ${one.id}`, source: 'Subject: x', from: 'maren@house.example' } }),
      ]),
    ),
  })
  const shown = page('/practice-post').show(
    <SessionProvider session={{ firm: { time_zone: 'Europe/London' } } as never}>
      <KeysProvider>
        <Routes>
          <Route path="/practice-post/:id?" element={<PracticePostScreen />} />
        </Routes>
      </KeysProvider>
    </SessionProvider>,
  )
  return { server, ...shown }
}

describe('PracticePostScreen', () => {
  it('shows the newest letter first, in each way of looking', async () => {
    const { findByRole, getByTitle, getByText, getByRole } = post()
    expect((await findByRole('heading', { name: 'Letter 130' })).textContent).toBe('Letter 130')
    expect(getByTitle('Letter as shown').getAttribute('src')).toBe('/api/practice/letters/130/shown')
    await userEvent.click(getByRole('button', { name: 'Text' }))
    expect(getByText('Text of 130')).toBeTruthy()
    await userEvent.click(getByRole('button', { name: 'Source' }))
    expect(getByText('Subject: x')).toBeTruthy()
  })

  it('goes back to the very first letter, page by page', async () => {
    const { findByText, findByRole, queryByRole } = post()
    await userEvent.click(await findByRole('button', { name: 'Older letters' }))
    await findByText('Letter 20')
    await userEvent.click(await findByRole('button', { name: 'Older letters' }))
    await findByText('Letter 1')
    expect(queryByRole('button', { name: 'Older letters' })).toBeNull()
  })

  it('is leafed through with the keyboard', async () => {
    const { findByRole } = post()
    await findByRole('heading', { name: 'Letter 130' })
    await userEvent.keyboard('jj')
    await findByRole('heading', { name: 'Letter 128' })
    await userEvent.keyboard('k')
    await findByRole('heading', { name: 'Letter 129' })
  })

  it('finds what went to one address, and says when there is nothing', async () => {
    const { findByLabelText, findByRole, findByText } = post()
    await userEvent.type(await findByLabelText('Find by address'), 'person7@')
    await findByRole('heading', { name: 'Letter 7' })
    await userEvent.type(await findByLabelText('Find by address'), 'zzz')
    await findByText('Nobody of that address.')
  })
})
