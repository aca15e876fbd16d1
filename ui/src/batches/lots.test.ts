import { expect, test } from 'vitest'
import { freePrints, splitLots } from './lots'

test('lots are few, even and whole', () => {
  expect(splitLots(60, 16)).toEqual([15, 15, 15, 15])
  expect(splitLots(17, 16)).toEqual([9, 8])
  expect(splitLots(12, 20)).toEqual([12])
})

test('nonsense proposes nothing', () => {
  expect([splitLots(0, 5), splitLots(5, 0), splitLots(2.5, 5), splitLots(NaN, 5)]).toEqual([[], [], [], []])
})

test('prints ride free where the last sheet has room', () => {
  expect([1, 4, 5, 8].map((n) => freePrints(n, 4))).toEqual([3, 0, 3, 0])
  expect([freePrints(3, 0.5), freePrints(0, 4), freePrints(3, 0)]).toEqual([0, 0, 0])
})
