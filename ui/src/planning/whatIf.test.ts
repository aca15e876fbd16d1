import { beforeEach, expect, test } from 'vitest'
import { also, dropThought, hold, suppositions, thinking, thought } from './whatIf'

beforeEach(() => dropThought())

test('a thought is sent without what only people read', () => {
  expect(thinking.value).toBe(false)
  hold({ lotId: 4, step: 2, at: '2027-05-04T11:00:00Z', said: 'seal' })
  hold({ lotId: 4, step: 3, at: '2027-05-05T11:00:00Z', said: 'pack' })
  expect(thinking.value).toBe(true)
  expect(suppositions(thought.value).holds).toEqual([
    { lotId: 4, step: 3, at: '2027-05-05T11:00:00Z', personId: undefined },
  ])
  thought.value.order = { productId: 3, quantity: 2, dueOn: '2027-05-20' }
  expect(suppositions(thought.value).order).toEqual({ dueOn: '2027-05-20', lines: [{ productId: 3, quantity: 2 }] })
})

test('ways out add up, a lot goes first once', () => {
  also({ first: [7], places: 3 }, 'it goes first')
  also({ first: [7], places: 2, comes: [{ personId: 1, day: '2027-05-04', fromMinute: 900, toMinute: 1020 }] }, 'again')
  expect(thought.value.first).toEqual([{ lotId: 7, said: 'it goes first' }])
  expect(thought.value.places).toBe(5)
  also({ anyTime: ['lay'] }, 'at any time')
  also({ anyTime: ['lay', 'seal'] }, 'again')
  expect(suppositions(thought.value).anyTime).toEqual(['lay', 'seal'])
  expect(thought.value.comes).toHaveLength(1)
  dropThought()
  expect(thinking.value).toBe(false)
})
