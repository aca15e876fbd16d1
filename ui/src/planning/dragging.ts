import { computed, ref } from 'vue'
import type { Group } from './strip'
import type { Scale } from './scale'

// A bar that is drawn to another time of its day, or to another person's lane.
export interface Moved {
  group: Group
  // start is when its first step would begin, to five minutes; personId whose lane it lies in then.
  start: number
  personId: number
}

interface Lane {
  personId: number
  top: number
  groups: { item: Group }[]
}

// grip is how far, in pixels, a pointer goes before it draws a bar along rather than picks it.
const grip = 6
const five = 5 * 60000

export const keyOfBar = (g: Group) => `${g.hands[0]!.lotId}-${g.hands[0]!.step}-${g.start}`
const movable = (g: Group) => g.hands.every((h) => h.state === 'planned')

// useDragging lets the planned bars of a day be drawn along. The lane under the pointer is
// the person's; what is let go outside all lanes stays with whoever has it.
export function useDragging(
  day: { lanes: () => Lane[]; scale: () => Scale; width: () => number; tall: number },
  moved: (m: Moved) => void,
) {
  const held = ref<{ group: Group; personId: number; x: number; y: number; dx: number; dy: number } | null>(null)
  const drawn = computed(() => (held.value && Math.hypot(held.value.dx, held.value.dy) > grip ? held.value : null))
  let justDrawn = false

  function down(event: PointerEvent) {
    justDrawn = false
    if (event.button !== 0 || event.pointerType === 'touch') return
    const key = (event.target as HTMLElement).closest<HTMLElement>('[data-bar]')?.dataset.bar
    for (const lane of day.lanes())
      for (const { item } of lane.groups)
        if (key && keyOfBar(item) === key && movable(item))
          held.value = { group: item, personId: lane.personId, x: event.clientX, y: event.clientY, dx: 0, dy: 0 }
  }
  function move(event: PointerEvent) {
    if (!held.value) return
    held.value = { ...held.value, dx: event.clientX - held.value.x, dy: event.clientY - held.value.y }
    if (drawn.value) (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
  }
  function up() {
    const h = drawn.value
    held.value = null
    if (!h) return
    justDrawn = true
    const lanes = day.lanes()
    const own = lanes.findIndex((l) => l.personId === h.personId)
    const to = lanes[own + Math.round(h.dy / day.tall)]
    const at = day.scale().moment(day.scale().at(Date.parse(h.group.start)) + h.dx / day.width())
    moved({ group: h.group, start: Math.round(at / five) * five, personId: to?.personId || h.personId })
  }
  const cancel = () => (held.value = null)
  // A click ends every drag; it is none on the bar.
  function click(event: Event) {
    if (!justDrawn) return
    justDrawn = false
    event.stopPropagation()
  }
  return { drawn, down, move, up, cancel, click }
}
