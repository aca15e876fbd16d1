import { expect, test } from 'vitest'
import type { Day, Hands, Resting } from './queries'
import { ceilingsOf, endsOf, grouped, groupBy, inDays, keyOf, levelsOf, personLanes, placesAt } from './strip'

const at = (clock: string, day = 2) => `2027-03-0${day}T${clock}:00Z`
const day: Day = {
  date: '2027-03-02',
  start: at('05:00'),
  end: at('05:00', 3),
  open: [{ start: at('09:00'), end: at('15:00') }],
  people: [
    { personId: 1, name: 'Ana', open: [{ start: at('09:00'), end: at('15:00') }] },
    { personId: 2, name: 'Ben', open: [] },
  ],
  dues: [],
}
const hand = (lotId: number, start: string, end: string, more: Partial<Hands> = {}): Hands => ({
  lotId,
  step: 3,
  name: 'Clear the paper, second round',
  work: 'Clear paper',
  product: 'Lamp',
  productId: 1,
  orders: [],
  batchId: 1,
  batch: 1,
  lot: lotId,
  pieces: 4,
  person: 'Ana',
  personId: 1,
  sitting: 0,
  start: at(start),
  end: at(end),
  state: 'planned',
  because: '',
  late: false,
  held: false,
  ...more,
})
const rest = (start: string, end: string, more: Partial<Resting> = {}): Resting => ({
  lotId: 1,
  step: 2,
  name: 'Lay',
  product: 'Lamp',
  pieces: 4,
  places: 4,
  kind: 'dry',
  start: at(start),
  end: at(end),
  ready: at(end),
  best: at(end),
  state: 'planned',
  ...more,
})
const nobody = () => false

test('lots in hand in one sitting are one bar, however they lie', () => {
  const sitting = { state: 'inHand', sitting: 7 } as const
  const groups = grouped([hand(1, '09:00', '09:40', sitting), hand(2, '09:00', '09:40', sitting)], nobody)
  expect(groups).toMatchObject([{ pieces: 8, start: at('09:00'), end: at('09:40') }])
  const apart = grouped([hand(1, '09:00', '09:40', { state: 'inHand' }), hand(2, '09:00', '09:40', sitting)], nobody)
  expect(apart).toHaveLength(2)
})

test('like work of one person is one bar with all its pieces', () => {
  const groups = grouped(
    [hand(1, '09:00', '09:20'), hand(2, '09:20', '09:50', { state: 'inHand', late: true }), hand(3, '10:00', '10:10')],
    nobody,
  )
  expect(groups).toHaveLength(1)
  expect(groups[0]).toMatchObject({ start: at('09:00'), end: at('10:10'), pieces: 12, late: true, state: 'planned' })
})

test('other work, a long break, what is done, wanted or picked stand for themselves', () => {
  const of = (second: Hands, own = nobody as (h: Hands) => boolean) =>
    grouped([hand(1, '09:00', '09:20'), second], own).length
  expect(of(hand(2, '09:20', '09:30', { work: 'Seal' }))).toBe(2)
  expect(of(hand(2, '09:31', '09:40'))).toBe(2)
  expect(of(hand(2, '09:10', '09:40'))).toBe(2)
  expect(of(hand(2, '09:20', '09:40', { state: 'done' }))).toBe(2)
  expect(of(hand(2, '09:20', '09:40', { state: 'tentative' }))).toBe(2)
  expect(of(hand(2, '09:20', '09:40'), (h) => h.lotId === 2)).toBe(2)
})

test('everyone has a lane, and so has who is gone and did something', () => {
  const list = personLanes(
    day,
    [
      hand(1, '09:00', '10:00'),
      hand(2, '09:30', '11:00', { work: 'Seal' }),
      hand(4, '11:00', '12:00'),
      hand(3, '09:00', '10:00', { personId: 7, person: 'Cleo' }),
    ],
    nobody,
  )
  expect(list.map((l) => [l.name, l.groups.map((g) => [g.lane, g.lanes])])).toEqual([
    [
      'Ana',
      [
        [0, 2],
        [1, 2],
        [0, 1],
      ],
    ],
    ['Ben', []],
    ['Cleo', [[0, 1]]],
  ])
})

test('the rack is as full as what rests on it, from the day before into the next', () => {
  const levels = levelsOf(day, [
    rest('20:00', '10:00', { start: at('20:00', 1) }),
    rest('09:30', '12:00', { places: 6 }),
    rest('11:00', '07:00', { end: at('07:00', 3) }),
  ])
  expect(levels.map((l) => [new Date(l.at).toISOString().slice(11, 16), l.places])).toEqual([
    ['05:00', 4],
    ['09:30', 10],
    ['10:00', 6],
    ['11:00', 10],
    ['12:00', 4],
  ])
  expect(placesAt(levels, Date.parse(at('09:45')))).toBe(10)
})

test('rests that end within twenty minutes, or too near to be told apart, are one ring', () => {
  const rests = [rest('08:00', '10:00'), rest('08:00', '10:19'), rest('08:00', '10:20'), rest('08:00', '11:00')]
  expect(endsOf(day, rests, () => true).map((e) => e.rests.length)).toEqual([2, 1, 1])
  expect(endsOf(day, rests, (a, b) => b - a > 3600000).map((e) => e.rests.length)).toEqual([4])
})

test('a ceiling is told on its day, while it can still be kept or missed', () => {
  const rests = [
    rest('08:00', '10:00', { until: at('12:00') }),
    rest('08:00', '10:00', { until: at('12:00'), state: 'done' }),
    rest('08:00', '10:00', { until: at('12:00', 4) }),
  ]
  expect(ceilingsOf(day, rests)).toHaveLength(1)
})

test('a span is told on each day it reaches into, a rest until its ceiling is past', () => {
  const days = [2, 3, 4].map((d) => ({ ...day, start: at('05:00', d), end: at('05:00', d + 1) }))
  const hands = [
    hand(1, '09:00', '10:00'),
    { ...hand(2, '09:00', '10:00'), start: at('04:00', 3), end: at('06:00', 3) },
  ]
  expect(inDays(days, hands).map((d) => d.map((h) => h.lotId))).toEqual([[1, 2], [2], []])
  const rests = [rest('08:00', '10:00'), rest('08:00', '10:00', { lotId: 2, until: at('12:00', 4) })]
  expect(inDays(days, rests).map((d) => d.map((r) => r.lotId))).toEqual([[1, 2], [2], [2]])
})

test('a bar is found again by any of its lots', () => {
  const hands = [hand(1, '09:00', '09:20'), hand(2, '09:20', '09:50')]
  const key = keyOf(grouped(hands, nobody)[0]!)
  expect(groupBy(key, [day], hands)?.group.hands).toHaveLength(2)
  expect(groupBy(203, [day], hands)).toMatchObject({ person: 'Ana' })
  expect(groupBy(999, [day], hands)).toBeUndefined()
})
