import { expect, test } from 'vitest'
import type { Schemas } from '../api/client'
import { holdsSaid, makingSaid, sizeSaid } from './words'

test('sizes are said in the unit they have', () => {
  expect([0, 900, 12_345, 4_600_000, 46_000_000, 4_600_000_000].map(sizeSaid)).toEqual([
    '1 kB',
    '1 kB',
    '12 kB',
    '4.6 MB',
    '46 MB',
    '4.6 GB',
  ])
})

test('how far a backup has come', () => {
  expect(makingSaid({ stage: 'writing', done: 3, total: 40 })).toBe('Writing: 3 of 40')
  expect(makingSaid({ stage: 'reading', done: 0, total: 0 })).toBe('Reading it back')
})

test('whether a backup holds, and where else it lies', () => {
  const b = { name: '', madeAt: '', bytes: 1, encrypted: false, rows: 1, pictures: 0, missing: 0, copied: false }
  expect(holdsSaid(b as Schemas['Backup'])).toBe('holds')
  expect(holdsSaid({ ...b, encrypted: true, copied: true } as Schemas['Backup'])).toBe(
    'holds, encrypted, in the second folder too',
  )
  expect(holdsSaid({ ...b, failure: 'it ends too early', notCopied: 'no room', missing: 2 } as Schemas['Backup'])).toBe(
    'does not hold: it ends too early, not in the second folder: no room, 2 files of pictures had been lost or damaged before',
  )
})
