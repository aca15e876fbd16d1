import { expect, test } from 'vitest'
import { splitLots } from './lots'

test('lots are few, even and whole', () => {
  expect(splitLots(60, 16)).toEqual([15, 15, 15, 15])
  expect(splitLots(17, 16)).toEqual([9, 8])
  expect(splitLots(12, 20)).toEqual([12])
})

test('nonsense proposes nothing', () => {
  expect([splitLots(0, 5), splitLots(5, 0), splitLots(2.5, 5), splitLots(NaN, 5)]).toEqual([[], [], [], []])
})
