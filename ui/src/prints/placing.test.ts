import { expect, test } from 'vitest'
import { imageAt, mmPerPx, moved, turned, zoomed } from './placing'

const wide = { widthPx: 1200, heightPx: 900 }

test('a picture fills its print, or is in it whole', () => {
  expect(mmPerPx({}, wide, 90, 90)).toBeCloseTo(0.1)
  expect(mmPerPx({ fit: 'whole' }, wide, 90, 90)).toBeCloseTo(0.075)
  expect(mmPerPx({ zoom: 2 }, wide, 90, 90)).toBeCloseTo(0.2)
  expect(mmPerPx({ turn: 90 }, wide, 60, 90)).toBeCloseTo(0.075)
  // straightened by 5°, it grows so that no paper shows
  expect(mmPerPx({ turn: 5 }, wide, 90, 90)).toBeGreaterThan(0.1)
  expect(mmPerPx({}, { widthPx: 0, heightPx: 0 }, 90, 90)).toBe(0)
})

test('it lies about the middle of the box and where it was moved to', () => {
  const at = imageAt({ xMm: 4, yMm: -2 }, wide, { widthMm: 90, heightMm: 90 })
  expect(at.width).toBeCloseTo(120)
  expect(at.x + at.width / 2).toBeCloseTo(49)
  expect(at.y + at.height / 2).toBeCloseTo(43)
})

test('zoom, turn and place stay within what there is', () => {
  expect(zoomed({ zoom: 19 }, 4).zoom).toBe(20)
  expect(zoomed({}, 0.0001).zoom).toBe(0.05)
  expect(turned({ turn: 170 }, 20).turn).toBe(-170)
  expect(turned({ turn: -170 }, -20).turn).toBe(170)
  expect(turned({ turn: 90 }, 90).turn).toBe(180)
  expect(moved({ xMm: 1 }, 0.111, 2)).toEqual({ xMm: 1.11, yMm: 2 })
})
