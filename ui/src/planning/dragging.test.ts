import { expect, test } from 'vitest'
import { keyOfBar, useDragging, type Moved } from './dragging'
import type { Group } from './strip'

const start = Date.parse('2027-03-02T10:00:00Z')
const bar = (state: string) =>
  ({ hands: [{ lotId: 4, step: 2, state }], start: '2027-03-02T10:00:00Z' }) as unknown as Group
// 100 pixels are 100 minutes.
const scale = { at: (t: number) => (t - start) / 6000000, moment: (s: number) => start + s * 6000000, ticks: [] }
const pointer = (over: Group | null, x: number, y: number, type = 'mouse') =>
  ({
    button: 0,
    pointerType: type,
    pointerId: 1,
    clientX: x,
    clientY: y,
    target: { closest: () => over && { dataset: { bar: keyOfBar(over) } } },
    currentTarget: { setPointerCapture: () => {} },
  }) as unknown as PointerEvent

function day(state: string, top = 0, from = start) {
  const group = bar(state)
  const moves: Moved[] = []
  const lanes = [
    { personId: 1, top: 0, groups: [{ item: group }] },
    { personId: 2, top: 24, groups: [] },
  ]
  const own = { ...scale, at: (t: number) => (t - from) / 6000000, moment: (s: number) => from + s * 6000000 }
  const box = { left: 10, right: 110, top, bottom: top + 48 } as DOMRect
  const at = { lanes: () => lanes, scale: () => own, width: () => 100, tall: 24, box: () => box }
  return { group, moves, drag: useDragging(at, (m) => moves.push(m)) }
}
const click = () => {
  let stopped = false
  return { event: { stopPropagation: () => (stopped = true) } as unknown as Event, stopped: () => stopped }
}

test('a planned bar is drawn to a time of five minutes and to another lane', () => {
  const { group, moves, drag } = day('planned')
  drag.down(pointer(group, 50, 10))
  drag.move(pointer(null, 83, 30))
  expect(drag.drawn.value).toMatchObject({ dx: 33, dy: 20 })
  drag.up()
  expect(moves).toEqual([{ group, start: start + 35 * 60000, personId: 2 }])
  const after = click()
  drag.click(after.event)
  expect(after.stopped()).toBe(true)
  const next = click()
  drag.click(next.event)
  expect(next.stopped()).toBe(false)
})

test('a bar is drawn to another day, and let go outside all days stays in its own', () => {
  const { group, moves, drag } = day('planned', 1000)
  const next = start + 24 * 3600000
  day('planned', 1100, next)
  drag.down(pointer(group, 15, 1010))
  drag.move(pointer(null, 55, 1130))
  drag.up()
  drag.down(pointer(group, 15, 1010))
  drag.move(pointer(null, 35, 4000))
  drag.up()
  expect(moves).toEqual([
    { group, start: next + 40 * 60000, personId: 2 },
    { group, start: start + 20 * 60000, personId: 1 },
  ])
})

test('a tap, a touch and what is done move nothing', () => {
  const { group, moves, drag } = day('planned')
  drag.down(pointer(group, 50, 10))
  drag.move(pointer(null, 53, 11))
  drag.up()
  drag.down(pointer(group, 50, 10, 'touch'))
  drag.move(pointer(null, 90, 11))
  drag.up()
  drag.down(pointer(group, 50, 10))
  drag.move(pointer(null, 90, 11))
  drag.cancel()
  drag.up()
  const done = day('done')
  done.drag.down(pointer(done.group, 50, 10))
  done.drag.move(pointer(null, 90, 10))
  done.drag.up()
  expect([...moves, ...done.moves]).toEqual([])
})
