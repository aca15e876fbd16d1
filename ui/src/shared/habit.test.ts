import { afterEach, expect, test } from 'vitest'
import table from '../../../core/habit/testdata/written.json'
import { figure, habit, habitOf, timeOfDay, type Habit } from './habit'
import { amount, money } from './money'
import { clock, longDay, dayName, zone } from './time'

const plain = { ...habit.value }
afterEach(() => (habit.value = { ...plain }))

test.each(table.cases)('written as the server writes: $habit.clock, $habit.dateOrder', (c) => {
  zone.value = 'Etc/UTC'
  habit.value = c.habit as Habit
  expect(clock(table.moment)).toBe(c.time)
  expect(clock(table.midnight)).toBe(c.midnight)
  expect(longDay('2027-03-05')).toBe(c.date)
  expect([figure(2.5), figure(2.5, 2)]).toEqual([c.number, c.rounded])
  expect([money('1234.5'), money(-3)]).toEqual([c.money, c.owed])
})

test('days far off take the order of the studio’s dates', () => {
  const far = (order: Habit['dateOrder']) => {
    habit.value = { ...plain, dateOrder: order }
    return [dayName('2027-05-14', '2027-03-01'), dayName('2028-05-14', '2027-03-01')]
  }
  expect(far('dmy')).toEqual(['Fri 14 May', '14 May 2028'])
  expect(far('mdy')).toEqual(['Fri May 14', 'May 14, 2028'])
  expect(far('ymd')).toEqual(['Fri May 14', '2028 May 14'])
})

test('amounts take the decimal sign', () => {
  habit.value = { ...plain, decimalSign: 'comma' }
  expect(amount('8.93')).toBe('8,93')
})

test('a time of day is read by the clock', () => {
  habit.value = { ...plain, clock: '12h' }
  expect(['00:00', '09:05', '12:30', '23:59'].map(timeOfDay)).toEqual(['12:00 AM', '9:05 AM', '12:30 PM', '11:59 PM'])
})

test('a new studio has the habits of its browser', () => {
  expect(habitOf('en-US', 'USD')).toEqual({
    clock: '12h',
    firstWeekday: 0,
    dateOrder: 'mdy',
    decimalSign: 'point',
    currencySign: '$',
    signFirst: true,
  })
  expect(habitOf('de-DE', 'EUR')).toEqual({
    clock: '24h',
    firstWeekday: 1,
    dateOrder: 'dmy',
    decimalSign: 'comma',
    currencySign: '€',
    signFirst: false,
  })
  expect(habitOf('sv-SE', 'SEK')).toMatchObject({ dateOrder: 'ymd', decimalSign: 'comma', signFirst: false })
})
