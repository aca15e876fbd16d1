import { computed, getCurrentScope, onScopeDispose, ref } from 'vue'
import type { Group } from './strip'
import type { Scale } from './scale'

// A bar that is drawn to another time, of its day or another, or to another person's lane.
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

// DayOnPage is a day as it is drawn: its lanes, its scale, and where it stands in the window.
interface DayOnPage {
  lanes: () => Lane[]
  scale: () => Scale
  width: () => number
  tall: number
  box: () => DOMRect
}
// shown are the days on the page, any of which a bar can be drawn to.
const shown = new Set<DayOnPage>()

// grip is how far, in pixels, a pointer goes before it draws a bar along rather than picks it.
const grip = 6
const five = 5 * 60000

export const keyOfBar = (g: Group) => `${g.hands[0]!.lotId}-${g.hands[0]!.step}-${g.start}`
const movable = (g: Group) => g.hands.every((h) => h.state === 'planned')

// useDragging lets the planned bars of a day be drawn along, to its other times and to
// other days. The lane under the pointer is the person's; what is let go outside all
// lanes stays with whoever has it, and outside all days in its own.
export function useDragging(day: DayOnPage, moved: (m: Moved) => void) {
  shown.add(day)
  if (getCurrentScope()) onScopeDispose(() => shown.delete(day))
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
    const [x, y] = [h.x + h.dx, h.y + h.dy]
    const under = (d: DayOnPage) => {
      const box = d.box()
      return d.lanes().length > 0 && y >= box.top && y < box.bottom && x >= box.left && x < box.right
    }
    const to = [...shown].find(under) ?? day
    // Where in the bar it was taken hold of.
    const into = h.x - day.box().left - day.scale().at(Date.parse(h.group.start)) * day.width()
    const at = to.scale().moment((x - to.box().left - into) / to.width())
    const lane = to.lanes()[Math.floor((y - to.box().top) / to.tall)]
    moved({ group: h.group, start: Math.round(at / five) * five, personId: lane?.personId || h.personId })
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
