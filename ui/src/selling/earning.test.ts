import { expect, test } from 'vitest'
import { earningAt, whyLess } from './earning'

type Costs = Parameters<typeof earningAt>[0]

const costs = (name: string, tag: string, materials: string, labour: string, minutes: string, earned: string) =>
  ({
    name,
    perPiece: {
      materials,
      labour,
      overhead: '1.0000',
      outside: '0.0000',
      total: String(Number(materials) + Number(labour) + 1),
    },
    handsMinutes: minutes,
    sales: [{ outletId: 1, tag, tax: '0.00', fees: '1.00', kept: String(Number(tag) - 1), earnedPerHour: earned }],
  }) as unknown as Costs

const ornament = earningAt(costs('Ornament', '15.00', '2.0000', '6.0000', '20.00', '33.00'), 1)
const tumbler = earningAt(costs('Tumbler', '22.00', '9.0000', '8.0000', '30.00', '22.00'), 1)

test('what is left for your time is what is kept, less all that is not labour', () => {
  expect(ornament.left).toBeCloseTo(11)
  expect(tumbler.left).toBeCloseTo(11)
})

test('it is said why an hour earns less, whichever is named first', () => {
  const why =
    'An hour of Tumbler earns 11.00 less: it sells for 7.00 more, materials and print take 7.00 more, it is 10.0 min longer in hand. So 11.00 is left for 30.0 min, against 11.00 for 20.0 min.'
  expect(whyLess(ornament, tumbler)).toBe(why)
  expect(whyLess(tumbler, ornament)).toBe(why)
})
