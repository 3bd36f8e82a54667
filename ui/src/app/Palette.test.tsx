import { waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it } from 'vitest'
import { page } from '../testing/page'
import { standIn } from '../testing/server'
import { Palette } from './Palette'

// What this page stands on has no window to scroll.
Element.prototype.scrollIntoView = () => undefined
const FOUND = { people: [{ id: 4, name: 'Ana Lark', company: 'The Copper Ladle' }], letters: [], sequences: [] }
const POST = { held: false, days: [], batches: [] }

function palette() {
  const server = standIn({
    'GET /api/post': () => ({ body: POST }),
    'GET /api/search': () => ({ body: FOUND }),
    'POST /api/letters': () => ({ status: 201, body: { id: 9 } }),
  })
  const shown = page().show(<Palette onClose={() => undefined} />)
  return { server, ...shown }
}

describe('the palette', () => {
  it('has the focus in its field, so that one types at once', async () => {
    const { getByRole } = palette()
    expect(document.activeElement).toBe(getByRole('combobox'))
    await userEvent.keyboard('ana')
    expect((getByRole('combobox') as HTMLInputElement).value).toBe('ana')
  })

  it('makes nothing without a choice', async () => {
    const { server } = palette()
    await userEvent.keyboard('{Enter}{Enter}')
    expect(server.of('POST')).toEqual([])
  })

  it('does what was typed, or moved to', async () => {
    const { server } = palette()
    await userEvent.keyboard('{ArrowDown}{Enter}')
    await waitFor(() => expect(server.of('POST')).toEqual([{}]))
  })

  it('finds people by what is typed', async () => {
    const { findByRole } = palette()
    await userEvent.keyboard('ana')
    const found = await findByRole('option', { name: /Ana Lark/ })
    await waitFor(() => expect(found.getAttribute('aria-selected')).toBe('true'))
  })
})
