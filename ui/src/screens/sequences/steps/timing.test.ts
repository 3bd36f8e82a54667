import { describe, expect, it } from 'vitest'
import { between, countedAs, daysWords, EVERY_DAY, hours, soLong, type Timing } from './timing'

const timing = (more: Partial<Timing> = {}): Timing => ({
  ...{ counted: 'step', amount: 3, unit: 'working_days', yearly: false, from_minute: 540, to_minute: 690 },
  ...{ weekdays: EVERY_DAY, days: 'working', zone: 'theirs' },
  ...more,
})

describe('timing in words', () => {
  it('says how long, in one or many', () => {
    expect([soLong(1, 'weeks'), soLong(-10, 'days'), soLong(3, 'working_days')]).toEqual(['1 week', '10 days', '3 working days'])
  })

  it('says hours', () => {
    expect([hours(timing()), hours(timing({ to_minute: 540 })), hours(timing({ from_minute: 0, to_minute: 1440 }))]).toEqual([
      '9:00–11:30',
      '9:00',
      'any hour',
    ])
    expect([between(timing()), between(timing({ to_minute: 540 }))]).toEqual(['between 9:00 and 11:30', 'at 9:00'])
  })

  it('says days, three in a row as a span, and leaves out those that cannot be meant', () => {
    expect(daysWords(timing())).toBe('on working days')
    expect(daysWords(timing({ days: 'any' }))).toBe('on any day')
    expect(daysWords(timing({ weekdays: [0, 2, 3, 4] }))).toBe('on Tue to Thu')
    expect(daysWords(timing({ weekdays: [1, 5] }))).toBe('on Mon and Fri')
    expect(daysWords(timing({ weekdays: [0, 6], days: 'any' }))).toBe('on Sat and Sun, days off too')
  })

  it('makes another way of counting one that can be meant', () => {
    expect(countedAs(timing(), 'date', undefined, '2026-05-12')).toEqual({ counted: 'date', on_date: '2026-05-12', amount: 0 })
    expect(countedAs(timing({ unit: 'hours' }), 'field', 'person.birthday', '')).toEqual({
      counted: 'field',
      field: 'person.birthday',
      yearly: true,
      unit: 'days',
    })
    expect(countedAs(timing({ counted: 'field', amount: -10 }), 'step', undefined, '')).toEqual({ counted: 'step', amount: 0 })
  })
})
