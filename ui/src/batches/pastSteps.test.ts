import { beforeEach, expect, test } from 'vitest'
import { zone } from '../shared/time'
import { doneBy, lastOf, leftAt, rowsOf, shifted, stepBody } from './pastSteps'

beforeEach(() => (zone.value = 'Etc/UTC'))
const rows = () =>
  rowsOf([
    { name: 'Sand', startedAt: '2027-04-26T09:00:00Z', minutes: 12, past: true },
    { name: 'Lay', startedAt: '2027-04-26T11:00:00Z', minutes: 30, past: true },
    { name: 'Clear', startedAt: '2027-04-27T09:00:00Z', minutes: 40, past: true },
  ])

test('what comes after a step that is moved moves along', () => {
  const moved = shifted(rows(), 1, { date: '2027-04-28', time: '11:30' })
  expect(moved.map((r) => `${r.date} ${r.time}`)).toEqual(['2027-04-26 09:00', '2027-04-28 11:30', '2027-04-29 09:30'])
  expect(shifted(rows(), 1, { date: '2027-04-26', time: '' })[2]).toEqual(rows()[2])
})

test('steps that are over are counted from the first on', () => {
  expect(doneBy(rows(), Date.parse('2027-04-26T12:00:00Z'))).toBe(2)
  expect(doneBy(rows(), Date.parse('2027-05-26T12:00:00Z'))).toBe(3)
  expect(doneBy(rows(), Date.parse('2027-04-26T09:11:00Z'))).toBe(0)
})

test('what was lost is not there any more, and is taken from the end', () => {
  const all = rows()
  all[0]!.lost = [5]
  expect(leftAt(all, 1, 5)).toEqual([1, 2, 3, 4])
  expect(lastOf(leftAt(all, 1, 5), 2)).toEqual([3, 4])
  expect(lastOf([1, 2], 9)).toEqual([1, 2])
  expect(stepBody({ ...all[0]!, reason: ' torn ' })).toEqual({
    startedAt: '2027-04-26T09:00:00.000Z',
    minutes: 12,
    lost: [5],
    reason: 'torn',
  })
})
