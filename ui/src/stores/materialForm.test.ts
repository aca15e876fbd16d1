import { expect, test } from 'vitest'
import { materialBody, newMaterial } from './materialForm'

test('a material is sent with the numbers that were given, commas read', () => {
  const { body, unread } = materialBody({
    ...newMaterial(),
    name: 'Gel',
    unit: 'ml',
    filmMm: '0,7',
    openLifeDays: ' 30 ',
  })
  expect(unread).toBe('')
  expect(body).toMatchObject({ name: 'Gel', filmMm: 0.7, openLifeDays: 30 })
  expect('density' in body).toBe(false)
})

test('what is no number is named', () => {
  expect(materialBody({ ...newMaterial(), lasts: 'long' }).unread).toBe('lasts')
})
