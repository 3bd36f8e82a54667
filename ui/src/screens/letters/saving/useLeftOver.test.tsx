import { waitFor } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import type { Shape } from '../../../api/client'
import { page } from '../../../testing/page'
import { standIn } from '../../../testing/server'
import { keepBackup, readBackup } from './backup'
import type { Draft } from './draft'
import { LETTERS } from './kept'
import { useLeftOver } from './useLeftOver'

const letter = (version: number) => ({ id: 3, version }) as Shape<'Letter'>
const VERSIONS = 'POST /api/letters/3/versions'

async function leftOver(version: number) {
  const { result } = page().use(() => useLeftOver(LETTERS, 3, letter(version)))
  await waitFor(() => expect(result.current.isFetching).toBe(false))
  return result.current
}

describe('what a lost page left on this machine', () => {
  it('is nothing when all was saved', async () => {
    const server = standIn({})
    expect((await leftOver(5)).data).toEqual({ draft: null })
    expect(server.asked).toEqual([])
  })

  it('is gone on with, on the letter as it was', async () => {
    standIn({})
    keepBackup('letter', 3, 5, { name: 'Lost' })
    expect((await leftOver(5)).data).toEqual({ draft: { name: 'Lost' } })
    expect(readBackup<Draft>('letter', 3)).not.toBeNull()
  })

  it('is kept among the versions of a letter that was changed since', async () => {
    const server = standIn({ [VERSIONS]: () => ({ status: 201 }) })
    keepBackup('letter', 3, 5, { name: 'Lost', archived: false })
    expect((await leftOver(6)).data).toEqual({ draft: null })
    expect(server.of('POST')).toEqual([{ name: 'Lost' }])
    expect(readBackup<Draft>('letter', 3)).toBeNull()
  })

  it('stays here when it cannot be kept there', async () => {
    standIn({ [VERSIONS]: () => 'away' })
    keepBackup('letter', 3, 5, { name: 'Lost' })
    expect((await leftOver(6)).error).toMatchObject({ status: 0 })
    expect(readBackup<Draft>('letter', 3)?.draft).toEqual({ name: 'Lost' })
  })
})
