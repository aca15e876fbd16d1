import { expect, test } from 'vitest'
import table from '../../../core/measure/testdata/readings.json'
import { countIn, dayIn, duration, exact, minutesIn, numberIn, plainDecimal, timeIn } from './reading'

// The table that the server's reader is held to as well.
interface Numeral {
  text: string
  counted?: boolean
  value?: string
  ambiguous?: boolean
}

test.each(table.numbers as Numeral[])('$text is read as the table says', ({ text, counted, value, ambiguous }) => {
  const read = numberIn(text, counted)
  if (value !== undefined) expect(read).toEqual({ value: Number(value), fault: '' })
  else expect(read.value).toBeNull()
  expect(read.fault.includes('could be')).toBe(Boolean(ambiguous))
})

test.each(table.durations as { text: string; over?: string; minutes?: number }[])(
  '$text over $over is read as the table says',
  ({ text, over, minutes }) => expect(minutesIn(text, over)).toBe(minutes ?? null),
)

test.each(table.written)('$minutes minutes are written as the table says, and read back', ({ minutes, text }) => {
  expect(exact(minutes)).toBe(text)
  expect(minutesIn(text)).toBe(minutes)
})

test('what could be two numbers is asked about by both', () => {
  expect(numberIn('2,300').fault).toBe('2,300 could be 2300 or 2.300; write the one that is meant')
})

test('a number as people type it gets the point that the server reads', () => {
  expect([' 10,50 ', '10.5', '1,000.50', '1,250', '½', 'dear'].map(plainDecimal)).toEqual([
    '10.50',
    '10.5',
    '1000.5',
    '1,250',
    '0.5',
    'dear',
  ])
})

test('durations that are looked at are rounded: to minutes, and to hours from two days on', () => {
  expect([0, 45.4, 60, 380, 1440, 2760, 4350, -3].map(duration)).toEqual([
    '0 min',
    '45 min',
    '1 h',
    '6 h 20 min',
    '24 h',
    '46 h',
    '3 d 1 h',
    '0 min',
  ])
})

test('how many is read as things are counted, and is none where no number is said', () => {
  expect(['12', '2,300', '1 200', ' 3.0 ', '', 'a few', '-4', undefined].map(countIn)).toEqual([
    12, 2300, 1200, 3, 0, 0, 0, 0,
  ])
})

test('times of day are read as they are typed', () => {
  expect(['9', '9:30', '930', '09.30', '2 pm', '12:15 AM', '12pm', '24:00', '0:05'].map(timeIn)).toEqual([
    '09:00',
    '09:30',
    '09:30',
    '09:30',
    '14:00',
    '00:15',
    '12:00',
    '00:00',
    '00:05',
  ])
  expect(['', 'noon', '25', '9:75', '13 pm', '24:30', '-3'].map(timeIn)).toEqual(Array(7).fill(null))
})

test('days are read in the order of the studio’s dates', () => {
  const over = '2027-03-01'
  expect(['31/5/2027', '31.5.27', '31 5', '2027-05-31', '1-12-2028'].map((t) => dayIn(t, 'dmy', over))).toEqual([
    '2027-05-31',
    '2027-05-31',
    '2027-05-31',
    '2027-05-31',
    '2028-12-01',
  ])
  expect(['5/31/2027', '5/31', '2027-05-31'].map((t) => dayIn(t, 'mdy', over))).toEqual(Array(3).fill('2027-05-31'))
  expect(['2027-05-31', '27-5-31', '5-31'].map((t) => dayIn(t, 'ymd', over))).toEqual(Array(3).fill('2027-05-31'))
  expect(
    ['', 'soon', '31', '31/2/2027', '5/31/2027', '1/1/1', '0/0/2027', '1/2/3/4'].map((t) => dayIn(t, 'dmy', over)),
  ).toEqual(Array(8).fill(null))
})
