import { describe, expect, it } from 'vitest'
import { clock, moment, money, percent, plural, timeOfDay } from './format'

describe('moment', () => {
  it('reads as the clock of the zone does', () => {
    expect(moment('2026-05-18T08:24:00Z', 'Europe/London')).toBe('Mon 18 May, 9:24')
    expect(clock('2026-05-18T08:24:00Z', 'America/New_York')).toBe('4:24')
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
