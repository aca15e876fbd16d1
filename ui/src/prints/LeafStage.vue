<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import { moved, turned, zoomed } from './placing'
import PrintLeaf from './PrintLeaf.vue'

// The leaf on which the picture is placed: drawn with a finger or the pointer, zoomed
// with two fingers or the wheel, and by the arrow keys, + and −, [ and ].
const props = defineProps<{ page: Schemas['DesignPage']; design: Schemas['Design']; words: string }>()
const emit = defineEmits<{ place: [what: string, placing: Schemas['Placing']] }>()
const stage = ref<HTMLElement | null>(null)

const fingers = new Map<number, { x: number; y: number }>()
// How many mm a pixel of the screen is.
function mm(): number {
  const svg = stage.value?.querySelector('svg')
  const m = svg?.getScreenCTM()
  return m ? 1 / m.a : 0
}
const place = (what: string, to: Schemas['Placing']) => emit('place', what, to)

function down(e: PointerEvent) {
  if (e.button > 0) return
  stage.value?.setPointerCapture(e.pointerId)
  fingers.set(e.pointerId, { x: e.clientX, y: e.clientY })
}
function move(e: PointerEvent) {
  const was = fingers.get(e.pointerId)
  if (!was) return
  const p = props.design.placing
  if (fingers.size === 1) {
    place('move', moved(p, (e.clientX - was.x) * mm(), (e.clientY - was.y) * mm()))
  } else {
    const other = [...fingers.entries()].find(([id]) => id !== e.pointerId)![1]
    const before = { x: was.x - other.x, y: was.y - other.y }
    const after = { x: e.clientX - other.x, y: e.clientY - other.y }
    const angle = Math.atan2(after.y, after.x) - Math.atan2(before.y, before.x)
    const by = Math.hypot(after.x, after.y) / Math.max(1, Math.hypot(before.x, before.y))
    place('pinch', turned(zoomed(p, by), (angle * 180) / Math.PI))
  }
  fingers.set(e.pointerId, { x: e.clientX, y: e.clientY })
}
const up = (e: PointerEvent) => fingers.delete(e.pointerId)

function wheel(e: WheelEvent) {
  place('zoom', zoomed(props.design.placing, e.deltaY < 0 ? 1.06 : 1 / 1.06))
}
const steps: Record<string, (p: Schemas['Placing'], fine: boolean) => Schemas['Placing']> = {
  ArrowLeft: (p, fine) => moved(p, fine ? -0.2 : -1, 0),
  ArrowRight: (p, fine) => moved(p, fine ? 0.2 : 1, 0),
  ArrowUp: (p, fine) => moved(p, 0, fine ? -0.2 : -1),
  ArrowDown: (p, fine) => moved(p, 0, fine ? 0.2 : 1),
  '+': (p) => zoomed(p, 1.05),
  '=': (p) => zoomed(p, 1.05),
  '-': (p) => zoomed(p, 1 / 1.05),
  '[': (p) => turned(p, -1),
  ']': (p) => turned(p, 1),
}
function key(e: KeyboardEvent) {
  if (e.ctrlKey || e.metaKey || e.altKey) return
  const step = steps[e.key]
  if (!step) return
  e.preventDefault()
  e.stopPropagation()
  place('keys', step(props.design.placing, e.shiftKey))
}
</script>

<template>
  <!-- What is done here by hand is done by the fields beside it, too. -->
  <div
    ref="stage"
    class="stage"
    tabindex="0"
    role="application"
    aria-label="Place the picture: arrow keys move it, + and − zoom, [ and ] turn, with Shift in small steps"
    @pointerdown="down"
    @pointermove="move"
    @pointerup="up"
    @pointercancel="up"
    @wheel.prevent="wheel"
    @keydown="key"
  >
    <PrintLeaf :page="page" :design="design" :words="words" />
  </div>
</template>

<style scoped>
.stage {
  height: 100%;
  touch-action: none;
  cursor: move;
}
.stage:focus-visible {
  outline: 2px solid var(--glaze);
  outline-offset: -2px;
}
</style>
