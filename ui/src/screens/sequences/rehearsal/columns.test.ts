import { describe, expect, it } from 'vitest'
import { columns, columnWords, within, workdays } from './columns'

describe('the columns of a rehearsal', () => {
  it('are its days from first to last, without weekends on which nothing happens', () => {
    const found = columns(['2026-05-14', '2026-05-18'])
    expect(found.map((one) => `${one.weekday} ${one.number}`)).toEqual(['Thu 14', 'Fri 15', 'Mon 18'])
    expect(columns(['2026-05-16']).map((one) => one.from)).toEqual(['2026-05-16'])
    expect(columns([])).toEqual([])
  })

  it('are weeks where days would be too many, and hold every day once', () => {
    const weeks = columns(['2026-05-13', '2026-08-05'])
    expect([weeks[0]?.from, weeks.at(-1)?.to, weeks.every((one) => one.of === 'week')]).toEqual([
      '2026-05-11',
      '2026-08-09',
      true,
    ])
    const items = ['2026-05-13', '2026-05-17', '2026-05-18', '2026-08-05'].map((date) => ({ date }))
    expect(weeks.flatMap((week) => within(items, week))).toEqual(items)
    expect(weeks.map(workdays)).toEqual(weeks.map(() => 5))
  })

  it('are months where weeks would be too many, and hold every day once', () => {
    const dates = ['2026-05-13', '2026-05-31', '2026-06-01', '2027-02-28', '2027-05-07']
    const months = columns(dates)
    expect([months.length, months[0]?.from, months[0]?.to, months[9]?.to]).toEqual([13, '2026-05-01', '2026-05-31', '2027-02-28'])
    expect(
      months
        .flatMap((month) =>
          within(
            dates.map((date) => ({ date })),
            month,
          ),
        )
        .map(({ date }) => date),
    ).toEqual(dates)
    expect(
      [columns(['2026-05-14'])[0], columns(['2026-05-13', '2026-08-05'])[0], months[8]].map((one) => one && columnWords(one)),
    ).toEqual(['Thu 14 May', 'the week of 11 May', 'Jan 2027'])
  })

  it('are months and years apart without losing a day to a change of clocks', () => {
    const found = columns(['2026-10-23', '2026-10-26', '2026-10-27'])
    expect(found.map((one) => one.number)).toEqual(['23', '26', '27'])
  })
})
