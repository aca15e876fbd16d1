import { expect, test } from 'vitest'
import { oftenInTime } from './often'

test('chances are said as people say them', () => {
  expect([1, 0.97, 0.92, 0.85, 0.5, 0.1, 0.02].map(oftenInTime)).toEqual([
    'As good as always in time',
    'In time 19 times in 20',
    'In time about 9 times in ten',
    'In time about 9 times in ten',
    'In time as often as not',
    'In time about 1 time in ten',
    'Hardly ever in time',
  ])
})
