import { afterEach, expect, test } from 'vitest'
import type { Schemas } from '../api/client'
import { habit } from '../shared/habit'
import { by, fieldSaid, valueOf } from './words'

const entry = (of: Partial<Schemas['TrailEntry']>) =>
  ({ person: '', member: '', device: '', itself: false, ...of }) as Schemas['TrailEntry']

afterEach(() => {
  habit.value = { ...habit.value, decimalSign: 'point', clock: '24h' }
})

test('who it was is the person that held the device, and who had signed in', () => {
  expect(by(entry({ person: 'Isolde', member: 'Isolde', device: 'bench phone' }))).toBe('Isolde, bench phone')
  expect(by(entry({ person: 'Bram', member: 'Isolde', device: 'desk' }))).toBe('Bram (Isolde), desk')
  expect(by(entry({ member: 'Isolde' }))).toBe('Isolde')
  expect(by(entry({ device: 'desk' }))).toBe('somebody at desk')
  expect(by(entry({}))).toBe('somebody')
  expect(by(entry({ member: 'Isolde', device: '3889684280-1706444572' }))).toBe('Isolde, device 3889')
  expect(by(entry({ itself: true }))).toBe('the studio by itself')
})

test('what stood in a field is written as the studio writes it', () => {
  habit.value = { ...habit.value, decimalSign: 'comma', clock: '12h' }
  expect(valueOf('number', '17.5', '2027-05-04')).toBe('17,5')
  expect(valueOf('text', '17.5', '2027-05-04')).toBe('17.5')
  expect(valueOf('flag', '0', '2027-05-04')).toBe('no')
  expect(valueOf('flag', '1', '2027-05-04')).toBe('yes')
  expect(valueOf('day', '2027-05-05', '2027-05-04')).toBe('tomorrow')
  expect(valueOf('moment', '2027-05-04T14:10:00Z', '2027-05-04')).toBe('today 2:10 PM')
  expect(valueOf('number', '', '2027-05-04')).toBe('–')
})

test('a change says from which to which, what came or went only what it had', () => {
  const f: Schemas['TrailField'] = { name: 'due on', kind: 'day', was: '2027-05-05', became: '2027-05-04' }
  expect(fieldSaid('changed', f, '2027-05-04')).toBe('due on tomorrow → today')
  expect(fieldSaid('made', f, '2027-05-04')).toBe('due on today')
  expect(fieldSaid('removed', f, '2027-05-04')).toBe('due on tomorrow')
})
