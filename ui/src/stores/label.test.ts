import { expect, test } from 'vitest'
import { labelBody, labelSaid, labelText, noLabel } from './label'

test('a label is read as people write it, and a bare number is not guessed at', () => {
  const typed = { ...noLabel(), labelFloorMinutes: '8 h', labelRecoatFromMinutes: '1 h 30', labelCureMinutes: '3 d' }
  expect(labelBody(typed)).toEqual({
    body: { labelFloorMinutes: 480, labelRecoatFromMinutes: 90, labelCureMinutes: 4320 },
    unread: '',
  })
  expect(labelBody({ ...noLabel(), labelCureMinutes: '24' }).unread).toBe('labelCureMinutes')
  expect(labelBody({ ...noLabel(), labelRecoatToMinutes: 'a week' }).unread).toBe('labelRecoatToMinutes')
})

test('what was kept is written so that it reads the same', () => {
  const label = { labelFloorMinutes: 45, labelRecoatFromMinutes: 120, labelRecoatToMinutes: 2880 }
  expect(labelBody(labelText(label)).body).toEqual(label)
})

test('a label is said in words, one that is silent too', () => {
  expect(labelSaid({ labelRecoatFromMinutes: 120, labelRecoatToMinutes: 2880 })).toBe(
    'next coat after 2 h and before 2 d',
  )
  expect(labelSaid({ labelRead: true })).toBe('its label says nothing of rests')
  expect(labelSaid({})).toBe('nobody has said what its label says')
})
