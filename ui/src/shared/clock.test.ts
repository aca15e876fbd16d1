import { expect, test } from 'vitest'
import { offsetBy } from './clock'

test('an answer that agrees with the clock leaves it alone, however slow it was', () => {
  expect(offsetBy(0, 100_000, 100_100, 100_400)).toBe(0)
  expect(offsetBy(0, 100_000, 100_100, 104_400)).toBe(0)
  expect(offsetBy(60_000, 160_000, 100_100, 100_400)).toBe(60_000)
})

test('a clock that is off is set right, by when the server was asked', () => {
  expect(offsetBy(0, 160_000, 100_000, 100_200)).toBe(60_499)
  expect(offsetBy(0, 160_000, 100_000, 106_200), 'a slow answer').toBe(60_499)
  expect(offsetBy(0, 100_000, 3_700_000, 3_700_400)).toBeCloseTo(-3_600_000, -3)
})
