import { waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it } from 'vitest'
import { KeysProvider } from '../../app/keys'
import { SessionProvider } from '../../app/session'
import { page } from '../../testing/page'
import { standIn } from '../../testing/server'
import { RepliesScreen } from './RepliesScreen'

Element.prototype.scrollIntoView = () => undefined
const reply = (id: number, name: string) => ({
  id,
  name,
  kind: 'reply',
  sort: 'new',
  text: 'Come on Tuesday.',
  company: null,
  received_at: '2026-05-12T09:00:00Z',
  version: 1,
})

function replies() {
  const server = standIn({
    'GET /api/replies': () => ({
      body: { replies: [reply(1, 'Ana Lark'), reply(2, 'Bo Reyes')], counts: {}, next_cursor: null },
    }),
    'PATCH /api/replies/1': ({ body }) => ({ body: { ...reply(1, 'Ana Lark'), ...(body as object), version: 2 } }),
  })
  const session = { account: { id: 1, name: 'Maren Holt' }, firm: { time_zone: 'Europe/London' } } as never
  const shown = page().show(
    <SessionProvider session={session}>
      <KeysProvider>
        <RepliesScreen />
      </KeysProvider>
    </SessionProvider>,
  )
  return { server, ...shown }
}

describe('sorting replies', () => {
  it('says what a key has decided, and undoes it by a click or Ctrl Z', async () => {
    const { server, findByRole, findAllByText } = replies()
    await findAllByText('Ana Lark')
    await userEvent.keyboard('x')
    await findByRole('status')
    expect((await findByRole('status')).textContent).toContain('“No” for Ana Lark.')
    await userEvent.click(await findByRole('button', { name: 'Undo' }))
    await waitFor(() => expect(server.of('PATCH').map((body) => (body as { sort: string }).sort)).toEqual(['no', 'new']))
    await userEvent.keyboard('d')
    await userEvent.keyboard('{Control>}z{/Control}')
    await waitFor(() => expect(server.of('PATCH').length).toBe(4))
  })
})
