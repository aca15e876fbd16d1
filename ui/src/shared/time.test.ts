import { beforeEach, expect, test } from 'vitest'
import { addDays, clock, dateOf, dayName, moment, momentIn, stopwatch, zone } from './time'

beforeEach(() => {
  zone.value = 'Europe/Berlin'
})

test('times are shown in the workshop’s zone', () => {
  expect(clock('2027-03-01T12:05:00Z')).toBe('13:05')
  expect(dateOf('2027-03-01T23:30:00Z')).toBe('2027-03-02')
})

test('moments read as people say them', () => {
  const now = '2027-03-01T09:00:00Z'
  expect(moment('2027-03-01T12:50:00Z', now)).toBe('13:50')
  expect(moment('2027-03-02T06:40:00Z', now)).toBe('07:40 tomorrow')
  expect(moment('2027-03-05T07:30:00Z', now)).toBe('Friday 08:30')
  expect(moment('2027-03-19T07:30:00Z', now)).toBe('Fri 19 Mar 08:30')
  expect(moment('2027-02-28T07:30:00Z', now)).toBe('08:30 yesterday')
  expect(dayName('2027-02-20', '2027-03-01')).toBe('Sat 20 Feb')
  expect(dayName('2028-04-26', '2027-03-01')).toBe('26 Apr 2028')
})

test('a stopwatch counts from nothing', () => {
  expect(stopwatch(1600)).toBe('0:26:40')
  expect(stopwatch(-5)).toBe('0:00:00')
})

test('a wall-clock time becomes its instant, on both sides of daylight saving', () => {
  expect(momentIn('2027-03-27', '12:00').toISOString()).toBe('2027-03-27T11:00:00.000Z')
  expect(momentIn('2027-03-28', '12:00').toISOString()).toBe('2027-03-28T10:00:00.000Z')
  expect(momentIn('2027-10-31', '23:00').toISOString()).toBe('2027-10-31T22:00:00.000Z')
})

test('days are added across months', () => {
  expect(addDays('2027-02-28', 1)).toBe('2027-03-01')
  expect(addDays('2027-03-01', -1)).toBe('2027-02-28')
})
