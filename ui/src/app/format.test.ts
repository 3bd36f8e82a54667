import { describe, expect, it } from 'vitest'
import { bytes, clock, day, itIs, moment, money, number, percent, plural, shortDate, timeOfDay } from './format'

describe('moment', () => {
  it('reads as the clock of the zone does', () => {
    expect(moment('2026-05-18T08:24:00Z', 'Europe/London')).toBe('Mon 18 May, 9:24')
    expect(clock('2026-05-18T08:24:00Z', 'America/New_York')).toBe('4:24')
  })
})

describe('day', () => {
  it('says the year that is not the one of the clock in use, where one is', () => {
    const at = '2027-05-07T08:00:00Z'
    expect(day(at, 'Europe/London')).toBe('Fri 7 May')
    itIs('2026-12-31T23:30:00Z')
    expect([day(at, 'Europe/London'), moment('2026-12-31T23:59:00Z', 'Europe/London')]).toEqual([
      'Fri 7 May 2027',
      'Thu 31 Dec, 23:59',
    ])
    expect(day(at, 'Asia/Tokyo')).toBe('Fri 7 May')
    itIs(null)
    expect(day('2025-05-07T08:00:00Z', 'Europe/London')).toBe('Wed 7 May 2025')
    itIs('2026-05-12T10:00:00Z')
  })
})

describe('money', () => {
  it('leaves out pence that are not there', () => {
    expect(money(184000)).toBe('£1,840')
    expect(money(150)).toBe('£1.50')
  })
})

describe('percent', () => {
  it('keeps a decimal only where it says something', () => {
    expect(percent(0.483)).toBe('48 %')
    expect(percent(0.004)).toBe('0.4 %')
    expect(percent(0)).toBe('0 %')
  })
})

describe('plural and timeOfDay', () => {
  it('counts one and many', () => {
    expect(plural(1, 'letter')).toBe('1 letter')
    expect(plural(1204, 'letter')).toBe('1,204 letters')
    expect(timeOfDay(565)).toBe('9:25')
  })
})

describe('clock', () => {
  it('writes midnight and summer time as clocks do', () => {
    expect(clock('2026-05-11T23:00:00Z', 'Europe/London')).toBe('0:00')
    expect(clock('2026-01-11T23:05:00Z', 'Europe/London')).toBe('23:05')
    expect(day('2026-05-11T23:00:00Z', 'Europe/London')).toBe('Tue 12 May')
  })
})

describe('shortDate', () => {
  it('names the year only when it is another', () => {
    expect(shortDate('2026-02-14T09:00:00Z', '2026-05-12T09:00:00Z')).toBe('14 Feb')
    expect(shortDate('2025-02-14T09:00:00Z', '2026-05-12T09:00:00Z')).toBe('14 Feb 2025')
  })
})

describe('number and bytes', () => {
  it('read as people write them', () => {
    expect(number(1234567)).toBe('1,234,567')
    expect([1, 1023, 43_000, 1_400_000].map(bytes)).toEqual(['1 kB', '1 kB', '42 kB', '1.3 MB'])
  })
})
