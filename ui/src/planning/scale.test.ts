import { beforeEach, expect, test } from 'vitest'
import { zone } from '../shared/time'
import { lanes, scaleOf, workingWindow } from './scale'

const day = {
  date: '2027-03-02',
  start: '2027-03-02T05:00:00Z',
  end: '2027-03-03T05:00:00Z',
  open: [{ start: '2027-03-02T09:00:00Z', end: '2027-03-02T15:00:00Z' }],
  people: [],
  dues: [],
}

beforeEach(() => {
  zone.value = 'Etc/UTC'
})

test('working hours take two thirds of the width', () => {
  const scale = scaleOf(day, workingWindow([day]))
  const at = (t: string) => scale.at(Date.parse(t))
  expect(at('2027-03-02T05:00:00Z')).toBeCloseTo(0)
  expect(at('2027-03-03T05:00:00Z')).toBeCloseTo(1)
  expect(at('2027-03-02T15:00:00Z') - at('2027-03-02T09:00:00Z')).toBeCloseTo(2 / 3)
  expect(at('2027-03-02T12:00:00Z') - at('2027-03-02T11:00:00Z')).toBeCloseTo(1 / 9)
  expect(at('2027-03-01T00:00:00Z')).toBe(0)
})

test('a place on the scale is a moment again', () => {
  const scale = scaleOf(day, workingWindow([day]))
  for (const t of ['2027-03-02T05:30:00Z', '2027-03-02T09:00:00Z', '2027-03-02T13:20:00Z', '2027-03-03T02:00:00Z'])
    expect(Math.abs(scale.moment(scale.at(Date.parse(t))) - Date.parse(t))).toBeLessThan(2000)
})

test('without working hours the scale is even', () => {
  const scale = scaleOf({ ...day, open: [] }, null)
  expect(scale.at(Date.parse('2027-03-02T17:00:00Z'))).toBeCloseTo(0.5)
})

test('a day that daylight saving shortens still ends at its end', () => {
  zone.value = 'Europe/Berlin'
  const short = { ...day, date: '2027-03-27', start: '2027-03-27T04:00:00Z', end: '2027-03-28T03:00:00Z', open: [] }
  expect(scaleOf(short, [4, 10]).at(Date.parse(short.end))).toBeCloseTo(1)
})

test('ticks are labelled with clock times and keep their distance', () => {
  const { ticks } = scaleOf(day, [4, 10])
  expect(ticks.map((t) => t.label)).toContain('12:00')
  for (let i = 1; i < ticks.length; i++) expect(ticks[i]!.share - ticks[i - 1]!.share).toBeGreaterThan(0.03)
})

test('spans that overlap get lanes of their own, and a lane is used again', () => {
  const span = (start: string, end: string) => ({ start: `2027-03-02T${start}:00Z`, end: `2027-03-02T${end}:00Z` })
  expect(lanes([span('09:00', '10:00'), span('09:30', '11:00'), span('10:00', '10:30')]).map((l) => l.lane)).toEqual([
    0, 1, 0,
  ])
})
