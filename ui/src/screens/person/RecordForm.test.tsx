import { useQuery } from '@tanstack/react-query'
import { waitFor } from '@testing-library/react'
import userEvent from '@testing-library/user-event'
import { describe, expect, it } from 'vitest'
import type { Shape } from '../../api/client'
import { page } from '../../testing/page'
import { OVERTAKEN, standIn } from '../../testing/server'
import { RecordForm } from './RecordForm'

type Person = Shape<'Person'>
const field = (key: string, label: string, type = 'text', choices: object[] = []) => ({
  key,
  label,
  type,
  choices,
  phrases: {},
  uses: ['import'],
  subject: 'person',
  sorted: true,
  retired: false,
  custom_id: null,
  forms: [],
})
const CATALOGUE = {
  fields: [
    field('person.first_name', 'First name'),
    field('person.last_name', 'Last name'),
    field('person.city', 'City'),
    field('person.owner', 'Owner', 'reference'),
    field('company.name', 'Company'),
  ],
  colleagues: [{ id: 7, name: 'Petra Lund' }],
  tags: ['felt'],
  lists: [],
} as unknown as Shape<'Catalogue'>

const ANA = {
  id: 4,
  version: 1,
  name: 'Ana Lark',
  company: 'The Copper Ladle',
  values: { 'person.first_name': 'Ana', 'person.last_name': 'Lark', 'person.city': 'York' },
  tags: [],
  lists: [],
  deals: [],
  addresses: [],
} as unknown as Person

/** The record as a server would keep it: each change needs the version it was made on. */
function keeping(slow = false) {
  let held = ANA
  const server = standIn({
    'PATCH /api/people/4': async ({ body }) => {
      const { values, version } = body as { values: Record<string, unknown>; version: number }
      if (slow) await new Promise((resolve) => setTimeout(resolve, 30))
      if (version !== held.version) return OVERTAKEN
      held = { ...held, version: version + 1, values: { ...held.values, ...values } } as Person
      return { body: held }
    },
  })
  return { server, held: () => held }
}

function Screen() {
  const { data } = useQuery<Person>({ queryKey: ['person', 4], queryFn: () => ANA, staleTime: Number.POSITIVE_INFINITY })
  return data ? <RecordForm key={data.id} person={data} catalogue={CATALOGUE} /> : null
}

function shown() {
  const { client, show } = page()
  client.setQueryData(['person', 4], ANA)
  return { client, ...show(<Screen />) }
}

describe('RecordForm', () => {
  it('saves each field as one leaves it', async () => {
    const { server } = keeping()
    const { getByLabelText } = shown()
    await userEvent.clear(getByLabelText('City'))
    await userEvent.type(getByLabelText('City'), 'Hull')
    await userEvent.tab()
    await waitFor(() => expect(server.of('PATCH')).toEqual([{ values: { 'person.city': 'Hull' }, version: 1 }]))
  })

  it('lets one go quickly from field to field: each save is made on the one before, and no letter is lost', async () => {
    const { held } = keeping(true)
    const { getByLabelText, queryByRole } = shown()
    await userEvent.type(getByLabelText('First name'), 'bel')
    await userEvent.tab()
    await userEvent.type(getByLabelText('Last name'), 'spur')
    await userEvent.tab()
    await userEvent.type(getByLabelText('City'), 'shire')
    await waitFor(() => expect(held().version).toBe(3))
    expect((getByLabelText('City') as HTMLInputElement).value).toBe('Yorkshire')
    expect(document.activeElement).toBe(getByLabelText('City'))
    await userEvent.tab()
    await waitFor(() =>
      expect(held().values).toMatchObject({
        'person.first_name': 'Anabel',
        'person.last_name': 'Larkspur',
        'person.city': 'Yorkshire',
      }),
    )
    expect(queryByRole('alert')).toBeNull()
  })

  it('tells of a colleague’s change, keeps what was typed, and overwrites nothing', async () => {
    standIn({ 'PATCH /api/people/4': () => OVERTAKEN })
    const { getByLabelText, findByRole } = shown()
    await userEvent.type(getByLabelText('City'), 'shire')
    await userEvent.tab()
    expect((await findByRole('alert')).textContent).toContain('Petra changed this meanwhile.')
    expect((getByLabelText('City') as HTMLInputElement).value).toBe('Yorkshire')
  })

  it('shows a colleague’s change where nobody types', async () => {
    keeping()
    const { client, getByLabelText } = shown()
    client.setQueryData(['person', 4], { ...ANA, version: 2, values: { ...ANA.values, 'person.city': 'Hull' } })
    await waitFor(() => expect((getByLabelText('City') as HTMLInputElement).value).toBe('Hull'))
  })

  it('names the company, and takes it away when it is emptied', async () => {
    const { server } = keeping()
    const { getByLabelText } = shown()
    await userEvent.clear(getByLabelText('Company'))
    await userEvent.tab()
    await waitFor(() => expect(server.of('PATCH')).toEqual([{ values: { 'person.company': null }, version: 1 }]))
  })
})
