import { expect, test } from 'vitest'
import { amount } from '../shared/money'
import { contents, eachCost } from './shelf'

const group = (over: object) => ({
  batchId: 3,
  batch: 12,
  lettering: '',
  pieces: 5,
  finishedAt: '2027-05-01T10:00:00Z',
  unitCost: '4.1500',
  ...over,
})

test('a shelf says where its pieces came from', () => {
  expect(
    contents([
      group({}),
      group({ batch: 0, batchId: 0, pieces: 2 }),
      group({ batch: 9, lettering: 'Mara', pieces: 1 }),
    ]),
  ).toBe('5 from batch 12, 2 found at a count, “Mara” from batch 9')
  expect(contents([group({ lettering: 'Mara', pieces: 2 })])).toBe('“Mara” × 2 from batch 12')
})

test('pieces that cost differently say from and to, those of open batches nothing', () => {
  expect(eachCost([group({})], amount)).toBe('4.15')
  expect(eachCost([group({ unitCost: '10.0000' }), group({}), group({ unitCost: undefined })], amount)).toBe(
    '4.15 to 10.00',
  )
  expect(eachCost([group({ unitCost: undefined })], amount)).toBe('')
})
