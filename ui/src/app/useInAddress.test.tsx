import { act } from '@testing-library/react'
import { useLocation, useNavigate } from 'react-router'
import { describe, expect, it } from 'vitest'
import { page } from '../testing/page'
import { useInAddress } from './useInAddress'

const EMPTY = { q: '', page: '0' }
const at = (path: string) =>
  page(path).use(() => ({ address: useInAddress(EMPTY), search: useLocation().search, go: useNavigate() })).result

describe('what a screen shows', () => {
  it('stands in the address, without what goes without saying', () => {
    const shown = at('/companies?page=2&add=1')
    expect(shown.current.address[0]).toEqual({ q: '', page: '2' })
    act(() => shown.current.address[1]({ q: 'copper', page: '0' }))
    expect(shown.current.address[0]).toEqual({ q: 'copper', page: '0' })
    expect(shown.current.search).toBe('?add=1&q=copper')
  })

  it('takes two changes in one go', () => {
    const shown = at('/companies')
    act(() => {
      shown.current.address[1]({ q: 'a' })
      shown.current.address[1]({ page: '3' })
    })
    expect([shown.current.address[0], shown.current.search]).toEqual([{ q: 'a', page: '3' }, '?q=a&page=3'])
  })

  it('follows an address that changes by itself', () => {
    const shown = at('/companies?q=a')
    act(() => shown.current.go('/companies'))
    expect(shown.current.address[0]).toEqual(EMPTY)
  })
})
