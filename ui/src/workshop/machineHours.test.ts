import { expect, test } from 'vitest'
import { everyDay, linesOf, withLine, without } from './machineHours'

const on = (weekday: number, fromMinute = 480, toMinute = 960) => ({ weekday, fromMinute, toMinute })
const daily = [0, 1, 2, 3, 4, 5, 6].map((d) => on(d))

test('hours that are the same on all days are one line, and others stand for themselves', () => {
  expect(linesOf(daily)).toEqual([{ day: everyDay, fromMinute: 480, toMinute: 960, at: [0, 1, 2, 3, 4, 5, 6] }])
  const most = daily.slice(1)
  expect(linesOf(most).map((l) => l.day)).toEqual([1, 2, 3, 4, 5, 6])
  const both = [on(2, 1000, 1100), ...daily, on(3, 1000, 1100)]
  expect(linesOf(both).map((l) => l.day)).toEqual([2, everyDay, 3])
  expect(linesOf([])).toEqual([])
})

test('a line is changed, taken out and added without touching the others', () => {
  const both = [on(2, 1000, 1100), ...daily]
  const [own, all] = linesOf(both)
  expect(withLine(both, { ...all!, day: 5 })).toEqual([on(2, 1000, 1100), on(5)])
  expect(withLine(both, { ...own!, toMinute: 1200 })).toEqual([on(2, 1000, 1200), ...daily])
  expect(without(both, all!)).toEqual([on(2, 1000, 1100)])
  expect(withLine([], { day: everyDay, fromMinute: 480, toMinute: 960, at: [] })).toEqual(daily)
  expect(linesOf(withLine(both, { ...own!, day: everyDay })).map((l) => l.day)).toEqual([everyDay, everyDay])
})
