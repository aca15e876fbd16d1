import { expect, test } from 'vitest'
import type { Day, Readiness } from './queries'
import { promisesOf } from './head'

const day = (...states: Readiness['state'][]): Day => ({
  date: '2027-03-02',
  start: '',
  end: '',
  open: [],
  people: [],
  dues: states.map((state, i) => ({
    orderId: i + 1,
    number: i,
    customer: `C${i}`,
    pieces: 1,
    readiness: { state, due: '', spareMinutes: 0, unstarted: 0 },
  })),
})

test.each([
  [[day()], 'This week has nothing due', 0],
  [[day('spare'), day('ready', 'tight')], 'This week holds every promise', 0],
  [[day('spare')], 'This week holds its one promise', 0],
  [[day('spare', 'late')], 'This week holds every promise but one', 1],
  [[day('spare', 'late'), day('unplanned')], 'This week holds every promise but 2', 2],
  [[day('late')], 'This week cannot hold its one promise', 1],
  [[day('late', 'unplanned')], 'This week can hold none of its promises', 2],
])('the head says what the days hold', (days, said, broken) => {
  const head = promisesOf('This week', days)
  expect([head.said, head.broken.length]).toEqual([said, broken])
})
