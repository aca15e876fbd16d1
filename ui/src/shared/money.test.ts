import { expect, test } from 'vitest'
import { amount, plainDecimal } from './money'

test('amounts show two decimals and never pass through a binary number', () => {
  expect(['16', '15.5', '8.9300', '0.1', '12345678901234567.89'].map(amount)).toEqual([
    '16.00',
    '15.50',
    '8.93',
    '0.10',
    '12345678901234567.89',
  ])
})

test('a number as people type it gets the point that the server reads', () => {
  expect([' 10,50 ', '10.5', '1,000.50'].map(plainDecimal)).toEqual(['10.50', '10.5', '1,000.50'])
})
