import { expect, test } from 'vitest'
import { quantity, unitCost } from './words'

test('quantities carry their unit, in the plural where people say it', () => {
  expect(quantity('1.000000', 'piece')).toBe('1 piece')
  expect(quantity('3', 'piece')).toBe('3 pieces')
  expect(quantity('47.943600', 'ml')).toBe('47.94 ml')
  expect(quantity('-2.5', 'sheet')).toBe('-2.5 sheets')
})

test('what a unit costs can be seen, however little it is', () => {
  expect(unitCost('6.2')).toBe('6.20')
  expect(unitCost('0.043750')).toBe('0.0438')
  expect(unitCost('0.860000')).toBe('0.86')
  expect(unitCost('0.024')).toBe('0.024')
  expect(unitCost('0')).toBe('0.00')
})
