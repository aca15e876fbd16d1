import { expect, test } from 'vitest'
import { minuteOf, minuteOfEnd, timeOf } from './minutes'

test('minutes of the day read as clock times and back', () => {
  for (const [minute, time] of [
    [0, '00:00'],
    [570, '09:30'],
    [1439, '23:59'],
  ] as const) {
    expect(timeOf(minute)).toBe(time)
    expect(minuteOf(time)).toBe(minute)
  }
  expect(timeOf(1440)).toBe('00:00')
})

test('a field that is emptied is midnight, not nonsense', () => {
  expect(minuteOf('')).toBe(0)
})

test('midnight begins a day, and ends it', () => {
  expect(minuteOfEnd('fromMinute', '00:00')).toBe(0)
  expect(minuteOfEnd('toMinute', '00:00')).toBe(1440)
  expect(minuteOfEnd('toMinute', '16:30')).toBe(990)
})
