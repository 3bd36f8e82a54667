import userEvent from '@testing-library/user-event'
import { describe, expect, it, vi } from 'vitest'
import type { Shape } from '../../../api/client'
import { page } from '../../../testing/page'
import { standIn } from '../../../testing/server'
import { ChecksPane } from '../reading/ChecksPane'
import { InUse, Others } from './Notices'

describe('Others', () => {
  const words = (others: { name: string; own: boolean }[]) => page().show(<Others others={others} />).container.textContent

  it('names colleagues, and tells of one’s own other page', () => {
    expect(words([])).toBe('')
    expect(words([{ name: 'Petra Lund', own: false }])).toBe('Petra Lund has it open too')
    expect(
      words([
        { name: 'Petra Lund', own: false },
        { name: 'Idris Vale', own: false },
      ]),
    ).toBe('Petra Lund and Idris Vale have it open too')
    expect(words([{ name: 'Maren Holt', own: true }])).toBe('Open in another of your tabs')
  })
})

describe('InUse', () => {
  it('says whom a change reaches, and is silent for a letter that is under way nowhere', () => {
    const letter = (running_in: object[]) => ({ id: 3, running_in, used_in: [] }) as unknown as Shape<'Letter'>
    expect(page().show(<InUse letter={letter([])} />).container.textContent).toBe('')
    const { container } = page().show(
      <InUse
        letter={letter([
          { id: 1, name: 'Rooms', had: 1, will: 0, held: true },
          { id: 2, name: 'Spring', had: 20, will: 3, held: false },
          { id: 4, name: 'Autumn', had: 0, will: 7, held: true },
        ])}
      />,
    )
    expect(container.textContent).toContain('In “Rooms”: 1 person has had it, nobody is still to get it.')
    expect(container.textContent).toContain('In “Spring”: 20 people have had it, 3 will get it as it is here.')
    expect(container.textContent).toContain('In “Autumn”: 0 people have had it, 7 will get it in its former words.')
  })

  it('lets new words take effect after saying how many letters they are, and with how many gaps', async () => {
    const seen = {
      version: 2,
      proposed: true,
      letters: [{ letter_id: 3, name: 'A', version: 9, to_come: 7, gaps: 2, gaps_at_most: true }],
    }
    const taken = vi.fn((_body: unknown) => ({ body: {} }))
    standIn({
      'GET /api/sequences/4/proposal': () => ({ body: seen }),
      'POST /api/sequences/4/proposal/effect': ({ body }) => taken(body),
    })
    const running_in = [{ id: 4, name: 'Autumn', had: 0, will: 7, held: true }]
    const shown = page().show(<InUse letter={{ id: 3, running_in, used_in: [] } as unknown as Shape<'Letter'>} />)
    await userEvent.click(shown.getByRole('button', { name: /Let the new words take effect/ }))
    expect(await shown.findByText(/7 letters of “Autumn” that are still to go say this from now on/)).toBeTruthy()
    expect(shown.getByText(/Up to 2 of them have a gap/)).toBeTruthy()
    await userEvent.click(shown.getByRole('button', { name: 'Let it take effect' }))
    expect(taken).toHaveBeenCalledWith({ version: 2, letters: [{ letter_id: 3, version: 9 }], proposed: false })
  })
})

describe('ChecksPane', () => {
  const letter = { id: 3, set_aside: ['no_preview'] } as unknown as Shape<'Letter'>
  const advice = (code: string, more = {}) => ({ code, words: `${code}.`, why: 'Because.', part: 'body', ...more })
  const pane = (told: object[], aside: object[] = []) => {
    standIn({
      'GET /api/letters/3/checks': () => ({ body: { advice: told, set_aside: aside, reading_minutes: 1 } }),
      'POST /api/letters/3/audience/people': () => ({ body: { people: [{ id: 1, name: 'Ana Lark' }], total: 1 } }),
    })
    const [onJump, onSetAside] = [vi.fn(), vi.fn()]
    return { onJump, onSetAside, ...page().show(<ChecksPane letter={letter} onJump={onJump} onSetAside={onSetAside} />) }
  }

  it('says when there is nothing to remark', async () => {
    expect(await pane([]).findByText(/Nothing to remark. Reading time about 1 minute./)).toBeTruthy()
  })

  it('leads to the place, and sets advice aside for this letter', async () => {
    const { findByRole, getByRole, onJump, onSetAside } = pane([advice('long_sentence', { excerpt: 'and so' })])
    await userEvent.click(await findByRole('button', { name: 'Show it' }))
    expect(onJump).toHaveBeenCalledWith(expect.objectContaining({ excerpt: 'and so' }))
    await userEvent.click(getByRole('button', { name: 'Fine for this letter' }))
    expect(onSetAside).toHaveBeenCalledWith(['no_preview', 'long_sentence'])
  })

  it('lets nobody set aside what would break the send', async () => {
    const { findByText, queryByRole } = pane([advice('no_text', { blocking: true })])
    await findByText('Stands in the way:', { exact: false })
    expect(queryByRole('button', { name: 'Fine for this letter' })).toBeNull()
  })

  it('opens the people behind a gap', async () => {
    const { findByRole, findByText } = pane([advice('gap', { field: 'person.city', count: 1 })])
    await userEvent.click(await findByRole('button', { name: 'Who' }))
    expect(await findByText('Ana Lark')).toBeTruthy()
  })

  it('says again what was set aside', async () => {
    const { findByText, getByRole, onSetAside } = pane([], [advice('no_preview')])
    await userEvent.click(await findByText('1 remark set aside'))
    await userEvent.click(getByRole('button', { name: 'Say it again' }))
    expect(onSetAside).toHaveBeenCalledWith([])
  })
})
