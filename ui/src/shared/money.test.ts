import { expect, test } from 'vitest'
import { amount, rounded } from './money'

test('amounts show two decimals and never pass through a binary number', () => {
  expect(['16', '15.5', '8.9300', '0.1', '12345678901234567.89'].map(amount)).toEqual([
    '16.00',
    '15.50',
    '8.93',
    '0.10',
    '12345678901234567.89',
  ])
})

test('amounts are rounded half up, as they are in the books', () => {
  expect(rounded('0.043750', 4)).toBe('0.0438')
  expect(rounded('1.005', 2)).toBe('1.01')
  expect(rounded('-0.125', 2)).toBe('-0.13')
  expect(rounded('9.999', 2)).toBe('10.00')
  expect(rounded('12', 0)).toBe('12')
  expect(rounded('0.5', 3)).toBe('0.500')
})
