import { describe, expect, it } from 'vitest'
import { columns, within, workdays } from './columns'

describe('the columns of a rehearsal', () => {
  it('are its days from first to last, without weekends on which nothing happens', () => {
    const found = columns(['2026-05-14', '2026-05-18'])
    expect(found.map((one) => `${one.weekday} ${one.number}`)).toEqual(['Thu 14', 'Fri 15', 'Mon 18'])
    expect(columns(['2026-05-16']).map((one) => one.from)).toEqual(['2026-05-16'])
    expect(columns([])).toEqual([])
  })

  it('are weeks where days would be too many, and hold every day once', () => {
    const weeks = columns(['2026-05-13', '2026-08-05'])
    expect([weeks[0]?.from, weeks.at(-1)?.to, weeks.every((one) => one.weekday === null)]).toEqual([
      '2026-05-11',
      '2026-08-09',
      true,
    ])
    const items = ['2026-05-13', '2026-05-17', '2026-05-18', '2026-08-05'].map((date) => ({ date }))
    expect(weeks.flatMap((week) => within(items, week))).toEqual(items)
    expect(weeks.map(workdays)).toEqual(weeks.map(() => 5))
  })

  it('are months and years apart without losing a day to a change of clocks', () => {
    const found = columns(['2026-10-23', '2026-10-26', '2026-10-27'])
    expect(found.map((one) => one.number)).toEqual(['23', '26', '27'])
  })
})
