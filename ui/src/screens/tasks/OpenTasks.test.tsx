import { waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { expect, it } from 'vitest'
import { page } from '../../testing/page'
import { standIn } from '../../testing/server'
import { OpenTasks, useOpenTasks } from './OpenTasks'

const task = {
  ...{ id: 4, words: 'Ring them', state: 'open', person_id: 9, person: 'Ana Lark', version: 3, due_on: '2026-05-11' },
  outcomes: [{ key: 'spoke', words: 'spoke' }],
}

function Mine() {
  return <OpenTasks query={useOpenTasks({ mine: true })} />
}

it('says whose a task was that nobody has to do any more', async () => {
  const left = { ...task, nobodys: true, account: 'Ivo Lund' }
  standIn({
    'GET /api/tasks': () => ({ body: { tasks: [left, { ...left, id: 5, account: null }], total: 2, next_after: null } }),
    'GET /api/post': () => ({ body: { now: '2026-05-12T15:40:00Z' } }),
  })
  const shown = page().show(<Mine />)
  expect(await shown.findByText(/Ivo Lund, who cannot sign in any more/)).toBeTruthy()
  expect(shown.getByText(/nobody’s/)).toBeTruthy()
})

it('says what is late, and takes what came of it with a note, on the version that was seen', async () => {
  const server = standIn({
    'GET /api/tasks': ({ query }) => ({ body: { tasks: query.mine ? [task] : [], total: 1, next_after: null } }),
    'GET /api/post': () => ({ body: { now: '2026-05-12T15:40:00Z' } }),
    'PATCH /api/tasks/4': () => ({ body: { ...task, state: 'done' } }),
  })
  const shown = page().show(<Mine />)
  await userEvent.click(await shown.findByRole('button', { name: 'Done: Ring them, Ana Lark' }))
  await userEvent.type(shown.getByLabelText('A note about it'), 'Comes on Monday.')
  await userEvent.click(shown.getByRole('button', { name: 'spoke' }))
  await waitFor(() =>
    expect(server.of('PATCH')).toEqual([{ version: 3, done: true, outcome: 'spoke', note: 'Comes on Monday.' }]),
  )
})
