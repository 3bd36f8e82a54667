import { act } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useState } from 'react'
import { describe, expect, it } from 'vitest'
import type { Shape } from '../../../api/client'
import { page } from '../../../testing/page'
import { Moved } from './Recipients'

type Sequence = Shape<'Sequence'>
const of = (audience: object, version: number, would_get_it: number) =>
  ({ audience, version, sieve: { matching: 40, would_get_it } }) as unknown as Sequence

let change: (sequence: Sequence) => void
function Shown() {
  const [sequence, setSequence] = useState(of({}, 1, 0))
  change = setSequence
  return <Moved sequence={sequence} />
}

const becomes = (sequence: Sequence) => act(() => change(sequence))

describe('Moved', () => {
  it('is silent about what is changed here, before and after it is counted', () => {
    const { container } = page().show(<Shown />)
    becomes(of({ lists: [1] }, 1, 0))
    becomes(of({ lists: [1] }, 2, 30))
    expect(container.textContent).toBe('')
  })

  it('tells when others get it though nobody changed whom it is for, until one has seen it', async () => {
    const { container, getByRole } = page().show(<Shown />)
    becomes(of({}, 1, 28))
    expect(container.textContent).toContain('It is 28 now who would get it; it was 0 when you looked first.')
    await userEvent.click(getByRole('button', { name: 'Fine' }))
    expect(container.textContent).toBe('')
  })
})
