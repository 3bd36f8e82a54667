import { describe, expect, it } from 'vitest'
import { instant, readDate, writeDate } from './dates'

describe('days as a firm writes them', () => {
  it('are shown in its order, and without a year that nobody knows', () => {
    expect([writeDate('1980-05-12', 'dmy'), writeDate('1980-05-12', 'mdy'), writeDate('1980-05-12', 'ymd')]).toEqual([
      '12 May 1980',
      'May 12, 1980',
      '1980-05-12',
    ])
    expect([writeDate('1600-04-15', 'dmy'), writeDate('1600-04-15', 'mdy')]).toEqual(['15 Apr', 'Apr 15'])
  })

  it.each([
    ['12/5/1980', '1980-05-12'],
    ['12.5.80', '1980-05-12'],
    ['12 5 30', '2030-05-12'],
    ['1980-05-12', '1980-05-12'],
    ['12 May 1980', '1980-05-12'],
    ['12 september 1980', '1980-09-12'],
    ['May 12, 1980', '1980-05-12'],
    ['15/4', '1600-04-15'],
    ['29 Feb', '1600-02-29'],
    ['31/2/1980', null],
    ['5/13/1980', null],
    ['soon', null],
    ['', null],
  ])('are read as they are typed: %s', (typed, iso) => expect(readDate(typed, 'dmy')).toBe(iso))

  it('are read in another order where the firm has another', () => {
    expect([readDate('5/12/1980', 'mdy'), readDate('4/15', 'mdy'), readDate('5/12/1980', 'ymd')]).toEqual([
      '1980-05-12',
      '1600-04-15',
      null,
    ])
  })

  it('come back as they were shown', () => {
    for (const order of ['dmy', 'mdy', 'ymd'] as const)
      for (const iso of ['1980-05-12', '2026-12-01']) expect(readDate(writeDate(iso, order), order)).toBe(iso)
  })
})

describe('a day and minute by the clock of a place', () => {
  it('is an instant, summer and winter', () => {
    expect(instant('2026-05-18', 540, 'Europe/London')).toBe('2026-05-18T08:00:00.000Z')
    expect(instant('2026-01-18', 540, 'Europe/London')).toBe('2026-01-18T09:00:00.000Z')
    expect(instant('2026-05-18', 0, 'Pacific/Auckland')).toBe('2026-05-17T12:00:00.000Z')
  })
})
