import userEvent from '@testing-library/user-event'
import { expect, test, vi } from 'vitest'
import type { Shape } from '../../../api/client'
import { page } from '../../../testing/page'
import { standIn } from '../../../testing/server'
import { ForkStep, IN_FAILED_LANE } from './ForkStep'

type Step = Shape<'Step'>

function shown(kind: 'opened' | 'bounced') {
  const letter = { id: 1, position: 1, kind: 'letter', headline: 'Hello', letter_id: 7 }
  const lane = { id: 5, words: null, headline: `whoever ${kind}`, test: { kind, step_id: 1 }, steps: [], ends: false }
  const fork = { id: 2, position: 2, kind: 'fork', headline: 'Parts', within: { amount: 2, unit: 'days' }, lanes: [lane] }
  const steps = [letter, fork] as unknown as Step[]
  standIn({ 'GET /api/letters/7': () => ({ body: { body: { type: 'doc', content: [] } } }) })
  const onChange = vi.fn()
  const sequence = { id: 3, state: 'draft', steps } as unknown as Shape<'Sequence'>
  const { getByRole, findByText, queryByText } = page().show(
    <ForkStep sequence={sequence} step={steps[1] as Step} editable onChange={onChange} />,
  )
  return { getByRole, findByText, queryByText, onChange }
}

test('another reaction stays about the letter it was about, and the end of a task is about no letter', async () => {
  const { getByRole, onChange } = shown('opened')
  for (const [words, about] of [
    ['they clicked', { kind: 'clicked', step_id: 1 }],
    ['they replied', { kind: 'replied', step_id: 1 }],
    ['the task is done', { kind: 'task_done' }],
  ] as const) {
    await userEvent.click(getByRole('button', { name: 'What the lane “whoever opened” is for' }))
    await userEvent.click(getByRole('button', { name: words }))
    expect(onChange.mock.lastCall?.[0]({ lanes: [{ id: 5, test: null, steps: [] }] }).lanes[0].test).toEqual(about)
  }
})

test('a lane for a failed address says what becomes of the letters in it, and no other lane does', async () => {
  expect(await shown('bounced').findByText(IN_FAILED_LANE)).toBeTruthy()
})

test('a lane for an opening says nothing of it', () => {
  expect(shown('opened').queryByText(IN_FAILED_LANE)).toBeNull()
})
