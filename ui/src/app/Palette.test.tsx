import { waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { useLocation } from 'react-router'
import { describe, expect, it } from 'vitest'
import { page } from '../testing/page'
import { standIn } from '../testing/server'
import { Palette } from './Palette'

// What this page stands on has no window to scroll.
Element.prototype.scrollIntoView = () => undefined
const FOUND = { people: [{ id: 4, name: 'Ana Lark', company: 'The Copper Ladle' }], letters: [], sequences: [] }
const POST = { held: false, days: [], batches: [] }

const Where = () => <output>{useLocation().pathname}</output>

function palette(found: object = FOUND) {
  const server = standIn({
    'GET /api/post': () => ({ body: POST }),
    'GET /api/search': () => ({ body: found }),
    'POST /api/letters': () => ({ status: 201, body: { id: 9 } }),
  })
  const shown = page().show(
    <>
      <Palette onClose={() => undefined} />
      <Where />
    </>,
  )
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

  it('takes what is highlighted by Tab as by Enter', async () => {
    const { findByText, getByText } = palette()
    await userEvent.keyboard('ana')
    await findByText('Ana Lark')
    await userEvent.tab()
    await waitFor(() => expect(getByText('/people/4')).toBeTruthy())
  })

  it('does what was typed, or moved to', async () => {
    const { server } = palette()
    await userEvent.keyboard('{ArrowDown}{Enter}')
    await waitFor(() => expect(server.of('POST')).toEqual([{ letter: {} }]))
  })

  it('finds people by what is typed', async () => {
    const { findByRole } = palette()
    await userEvent.keyboard('ana')
    const found = await findByRole('option', { name: /^Ana Lark/ })
    await waitFor(() => expect(found.getAttribute('aria-selected')).toBe('true'))
  })

  it('opens whoever is found, and adds them to a sequence only when one goes there', async () => {
    const { findByRole } = palette()
    await userEvent.keyboard('ana')
    const add = await findByRole('option', { name: 'Add Ana Lark to a sequence…' })
    expect(add.getAttribute('aria-selected')).toBe('false')
    // Writing to them comes before it.
    await userEvent.keyboard('{ArrowDown}{ArrowDown}')
    await waitFor(() => expect(add.getAttribute('aria-selected')).toBe('true'))
    await userEvent.keyboard('{Enter}')
    expect(document.querySelector('output')?.textContent).toBe('/people/4')
  })

  it.each([
    ['bring people', '/files'],
    ['set aside', '/set-aside'],
    ['sign-in', '/settings/sign-in'],
  ])('goes where “%s” is done', async (typed, to) => {
    const { getByRole } = palette({ people: [], letters: [], sequences: [] })
    await userEvent.keyboard(typed)
    await waitFor(() => expect(getByRole('option').getAttribute('aria-selected')).toBe('true'))
    await userEvent.keyboard('{Enter}')
    expect(document.querySelector('output')?.textContent).toBe(to)
  })

  it('says when nothing fits', async () => {
    const { findByText } = palette({ people: [], letters: [], sequences: [] })
    await userEvent.keyboard('zzz')
    expect(await findByText('Nothing has these words.')).toBeTruthy()
  })
})
