<script setup lang="ts">
import { computed } from 'vue'
import { clock } from '../shared/time'
import type { Hands } from './queries'
import type { Scale } from './scale'
import { keyOfBar } from './dragging'
import { keyOf, type Group, type PersonLane } from './strip'

// What one person's hands do over a day. Like work is one bar: its name and how many
// pieces, hairlines between the lots. A day has many bars, so that none is a component.
const props = defineProps<{
  lane: PersonLane
  scale: Scale
  // width of the day and height of the lane, in pixels
  width: number
  height: number
  // own says that something is picked, so that all else fades.
  own: boolean
  // entry says that the day's first bar, which the tab key reaches, is here.
  entry: boolean
  // drawn is the bar that is drawn along, and by how much.
  drawn?: { key: string; dx: number; dy: number }
}>()
const emit = defineEmits<{ pick: [lotId: number]; work: [key: number] }>()

const states: Record<string, string> = {
  done: 'done',
  inHand: 'in hand',
  planned: 'planned',
  tentative: 'not made up yet',
}
const alone = (g: Group) => (g.hands.length === 1 ? g.hands[0]! : null)
const inHand = (g: Group) => g.hands.some((h) => h.state === 'inHand')
const heldIn = (g: Group) => g.hands.some((h) => h.held)
const countOf = (g: Group) => `${g.pieces} ${g.pieces === 1 ? 'piece' : 'pieces'}`
// Begins with what stands in the bar, for whoever speaks to it.
function told(g: Group) {
  const h = alone(g)
  const lots = h ? `of ${h.product}${h.name === h.work ? '' : `, ${h.name}`}` : `in ${g.hands.length} lots`
  const state = inHand(g) ? 'in hand' : states[g.state]
  const person = props.lane.name ? `, ${props.lane.name}` : ''
  return `${g.work}, ${countOf(g)} ${lots}, ${clock(g.start)} to ${clock(g.end)}, ${state}${person}${g.late ? ', will miss its promise' : ''}${heldIn(g) ? ', held there' : ''}`
}
function partOf(g: Group) {
  const from = Date.parse(g.start)
  const length = Date.parse(g.end) - from
  return (h: Hands) => {
    const left = ((Date.parse(h.start) - from) / length) * 100
    const wide = ((Date.parse(h.end) - Date.parse(h.start)) / length) * 100
    return { key: `${h.lotId}-${h.step}-${h.start}`, state: h.state, place: `left:${left}%;width:${wide}%` }
  }
}
const bars = computed(() =>
  props.lane.groups.map(({ item: g, lane, lanes }) => {
    const [left, right] = [props.scale.at(Date.parse(g.start)), props.scale.at(Date.parse(g.end))]
    const pixels = Math.max(0, right - left) * props.width
    // Two things at once halve a lane's height.
    const tall = (props.height - 2) / lanes
    const room = lanes > 1 ? 0 : pixels
    return {
      key: keyOfBar(g),
      g,
      madeUp: g.state !== 'tentative',
      told: told(g),
      place: `left:${left * 100}%;width:${Math.max(0, right - left) * 100}%;top:${1 + lane * tall}px;height:${tall}px;line-height:${tall}px`,
      looks: `${g.state}${g.late ? ' late' : ''}${pixels < 24 ? ' thin' : ''}${props.own && !g.own ? ' faded' : ''}${g.own ? ' picked' : ''}${heldIn(g) ? ' held' : ''}`,
      // Where there is room for little, being late is said before the name.
      name: room < 60 ? null : room >= (g.late ? 110 : 60) ? g.work : '',
      count: room < (g.late ? 150 : 110) ? '' : room >= 170 ? countOf(g) : String(g.pieces),
      // A step alone that is not in hand is the bar itself.
      parts: alone(g) && !inHand(g) ? [] : g.hands.map(partOf(g)),
    }
  }),
)
const entryAt = computed(() => (props.entry ? bars.value.findIndex((b) => b.madeUp) : -1))
function open(g: Group) {
  const only = alone(g)
  if (only) emit('pick', only.lotId)
  else emit('work', keyOf(g))
}
</script>

<template>
  <div class="lane">
    <component
      :is="b.madeUp ? 'button' : 'span'"
      v-for="(b, i) in bars"
      :key="b.key"
      class="hands"
      :class="b.looks"
      :style="
        b.key === drawn?.key ? [b.place, { transform: `translate(${drawn.dx}px, ${drawn.dy}px)`, zIndex: 5 }] : b.place
      "
      :data-bar="b.key"
      :aria-label="b.told"
      :role="b.madeUp ? undefined : 'img'"
      :data-told="b.told"
      :data-among="b.madeUp ? '' : undefined"
      :tabindex="b.madeUp ? (i === entryAt ? 0 : -1) : undefined"
      @click="b.madeUp && open(b.g)"
    >
      <i v-for="part in b.parts" :key="part.key" class="part" :class="part.state" :style="part.place" />
      <span v-if="b.name !== null" class="name" :class="{ 'word-late': b.g.late }"
        >{{ b.name }}<span v-if="b.count" class="count">&nbsp;{{ b.count }}</span></span
      >
    </component>
  </div>
</template>

<style scoped>
.lane {
  position: absolute;
  inset-inline: 0;
}
.hands {
  position: absolute;
  min-width: 3px;
  padding: 0 6px;
  overflow: hidden;
  border: 0;
  border-right: 1px solid var(--sheet);
  background: var(--clay);
  color: #fff;
  font-size: 13px;
  font-weight: 600;
  line-height: 22px;
  text-align: left;
  white-space: nowrap;
}
button.hands {
  cursor: pointer;
}
/* a target of 24 px at the least, however short the step */
button.hands::before {
  content: '';
  position: absolute;
  inset: 0 min(0px, (100% - 24px) / 2);
}
.part {
  position: absolute;
  inset-block: 0;
  border-right: 1px solid color-mix(in srgb, var(--sheet) 45%, transparent);
  pointer-events: none;
}
.part:last-of-type {
  border-right: 0;
}
/* a pin through what somebody holds there */
.hands.held::before {
  content: '';
  position: absolute;
  top: 2px;
  right: 3px;
  z-index: 1;
  width: 6px;
  height: 6px;
  border: 1.5px solid currentColor;
  border-radius: 50%;
}
.part.inHand::after {
  content: '';
  position: absolute;
  inset: auto 0 0;
  height: 4px;
  background: var(--ink);
}
.done {
  background: var(--clay-done);
  color: #5d2a1a;
}
.part.done {
  background: none;
}
.tentative {
  background: var(--sheet);
  border: 1.5px dashed var(--clay);
  color: var(--clay);
  line-height: 19px;
}
.part.tentative {
  border: 0;
  background: none;
}
.late {
  padding-right: 16px;
  clip-path: polygon(0 0, calc(100% - 14px) 0, calc(100% - 9px) 9px, calc(100% - 4px) 0, 100% 0, 100% 100%, 0 100%);
}
/* A thin bar is as wide as it lasts, and its notch goes across it. */
.thin {
  padding: 0;
}
.late.thin {
  clip-path: polygon(0 0, 10% 0, 50% 9px, 90% 0, 100% 0, 100% 100%, 0 100%);
}
.faded {
  background: color-mix(in srgb, var(--clay) 22%, var(--sheet));
  color: #5d2a1a;
}
.faded.tentative {
  background: var(--sheet);
  border-color: color-mix(in srgb, var(--clay) 40%, var(--sheet));
}
.picked {
  outline: 2px solid var(--ink);
  outline-offset: -2px;
}
.hands:focus-visible {
  outline: 2px solid var(--ink);
  outline-offset: -2px;
  z-index: 2;
  clip-path: none;
}
.name {
  position: relative;
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
}
.count {
  font-weight: 400;
}
.word-late::before {
  content: 'late';
  margin-right: 5px;
  padding: 0 4px;
  background: var(--sheet);
  color: var(--brick);
}
@media (forced-colors: active) {
  .hands {
    forced-color-adjust: none;
  }
}
</style>
