import { expect, test } from 'vitest'
import { zone } from '../shared/time'
import { spare, standing } from './readiness'

test('time to spare is said as people say it', () => {
  expect(spare(180)).toBe('3 h to spare')
  expect(spare(1600)).toBe('a day to spare')
  expect(spare(4400)).toBe('3 days to spare')
  expect(spare(-30)).toBe('30 min late')
  expect(spare(-1500)).toBe('a day late')
})

test('an order says when it is ready and what has not begun', () => {
  zone.value = 'Etc/UTC'
  const r = {
    state: 'spare' as const,
    at: '2027-03-02T14:10:00Z',
    due: '2027-03-03T17:00:00Z',
    spareMinutes: 1610,
    unstarted: 2,
  }
  expect(standing(r, '2027-03-01T09:00:00Z')).toBe('2 not begun · ready 14:10 tomorrow, a day to spare')
  expect(standing({ ...r, state: 'ready' }, '2027-03-01T09:00:00Z')).toBe('ready, collect')
})
