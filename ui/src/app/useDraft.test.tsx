import { act } from '@testing-library/react'
import { beforeEach, describe, expect, it } from 'vitest'
import { page } from '../testing/page'
import { useDraft } from './useDraft'

const EMPTY = { text: '' }
beforeEach(() => sessionStorage.clear())
const draft = (key = 'note 4') => page().use(() => useDraft(key, EMPTY))

describe('a form that was left half-typed', () => {
  it('has what was typed when one comes back, and only there', () => {
    const { result, unmount } = draft()
    act(() => result.current[1]({ text: 'Rang in May' }))
    unmount()
    expect(draft().result.current[0]).toEqual({ text: 'Rang in May' })
    expect(draft('note 5').result.current[0]).toEqual(EMPTY)
  })

  it('is empty again once it was sent', () => {
    const { result } = draft()
    act(() => result.current[1]({ text: 'Rang in May' }))
    act(() => result.current[2]())
    expect([result.current[0], draft().result.current[0]]).toEqual([EMPTY, EMPTY])
  })

  it('takes no harm from what else may be kept there', () => {
    sessionStorage.setItem('nimble.draft.note 4', '{oops')
    expect(draft().result.current[0]).toEqual(EMPTY)
  })
})
