import { expect, test } from 'vitest'
import { ended, keyFor } from './once'

test('an attempt that was answered gives its key up', () => {
  const first = keyFor('POST /a', 'x')
  ended('POST /a', first, true)
  expect(keyFor('POST /a', 'x').key).not.toBe(first.key)
})

test('an attempt whose outcome is not known is made again under its key, changed or not', () => {
  const first = keyFor('POST /b', 'x')
  ended('POST /b', first, false)
  const again = keyFor('POST /b', 'y')
  expect(again.key).toBe(first.key)
  ended('POST /b', again, false)
  expect(keyFor('POST /b', 'y').key).toBe(first.key)
})

test('the same change pressed twice is one, another one beside it is another', () => {
  const first = keyFor('POST /c', 'x')
  expect(keyFor('POST /c', 'x').key).toBe(first.key)
  expect(keyFor('POST /c', 'y').key).not.toBe(first.key)
  expect(first.key).toMatch(/^[0-9a-f]{32}$/)
})
