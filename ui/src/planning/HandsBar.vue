<script setup lang="ts">
import { computed } from 'vue'
import { clock } from '../shared/time'
import type { Hands } from './queries'
import type { Group } from './strip'

// Like work in one bar: its name and how many pieces, hairlines between the lots.
const props = defineProps<{
  group: Group
  person: string
  pixels: number
  slim: boolean
  faded: boolean
  stop: boolean
}>()
const emit = defineEmits<{ pick: [lotId: number]; work: [] }>()

const states: Record<string, string> = {
  done: 'done',
  inHand: 'in hand',
  planned: 'planned',
  tentative: 'not made up yet',
}
const only = computed(() => (props.group.hands.length === 1 ? props.group.hands[0]! : null))
const count = computed(() => `${props.group.pieces} ${props.group.pieces === 1 ? 'piece' : 'pieces'}`)
const when = (g: { start: string; end: string }) => `${clock(g.start)} to ${clock(g.end)}`
const told = computed(() => {
  const [g, h] = [props.group, only.value]
  const state = g.hands.some((one) => one.state === 'inHand') ? 'in hand' : states[g.state]
  const what = h ? `${h.name}, ${h.pieces} × ${h.product}` : `${g.work}, ${count.value} in ${g.hands.length} lots`
  return `${what}, ${when(g)}, ${state}${props.person ? `, ${props.person}` : ''}${g.late ? ', will miss its promise' : ''}`
})
// Where there is room for little, being late is said before the name.
const named = computed(() => props.pixels >= (props.group.late ? 110 : 60))
const length = computed(() => Date.parse(props.group.end) - Date.parse(props.group.start))
const part = (h: Hands) => {
  const left = ((Date.parse(h.start) - Date.parse(props.group.start)) / length.value) * 100
  return { left: `${left}%`, width: `${((Date.parse(h.end) - Date.parse(h.start)) / length.value) * 100}%` }
}
const madeUp = computed(() => props.group.state !== 'tentative')
</script>

<template>
  <component
    :is="madeUp ? 'button' : 'span'"
    class="hands"
    :class="[group.state, { late: group.late, faded, picked: group.own }]"
    :aria-label="told"
    :role="madeUp ? undefined : 'img'"
    :data-told="told"
    :data-among="madeUp ? '' : undefined"
    :tabindex="madeUp ? (stop ? 0 : -1) : undefined"
    @click="madeUp && (only ? emit('pick', only.lotId) : emit('work'))"
  >
    <i
      v-for="h in group.hands"
      :key="`${h.lotId}-${h.step}-${h.start}`"
      class="part"
      :class="h.state"
      :style="part(h)"
    />
    <span v-if="pixels >= 60 && !slim" class="name" :class="{ 'word-late': group.late }">
      <template v-if="named">{{ group.work }}</template>
      <span v-if="pixels >= (group.late ? 150 : 110)" class="count"
        >&nbsp;{{ pixels >= 170 ? count : group.pieces }}</span
      >
    </span>
  </component>
</template>

<style scoped>
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
