<script setup lang="ts">
import { computed } from 'vue'
import { now, thisMinute } from '../shared/clock'
import { duration } from '../shared/reading'
import { personId } from '../shared/settings'
import { clock, moment } from '../shared/time'
import { useTray } from '../shared/tray'
import { useToday, type Day, type Hands } from './queries'
import { together } from './strip'
import type { Scale } from './scale'

// The day in one line: what is in hand and by how much over, what is ready next, until when there are hands.
const props = defineProps<{ day?: Day; hands: Hands[]; scale: Scale | null }>()
const { data: today } = useToday()
const { open } = useTray()

const inHand = computed(() => {
  const all = today.value?.inHand ?? []
  return all.find((w) => w.personId === personId.value && w.runningSince) ?? all.find((w) => w.runningSince) ?? all[0]
})
const others = computed(() => Math.max(0, (today.value?.inHand.length ?? 0) - 1))
const worked = computed(() => {
  const w = inHand.value!
  return (w.workedSeconds + (w.runningSince ? (now.value - Date.parse(w.runningSince)) / 1000 : 0)) / 60
})
const over = computed(() => Math.floor(worked.value - inHand.value!.minutes))
const readyLots = computed(() => (today.value?.ready ?? []).reduce((n, s) => n + s.lots.length, 0))
const next = computed(() => {
  const all = today.value?.resting ?? []
  const first = all[0]
  if (!first) return null
  const at = Date.parse(first.ready)
  return { at, lots: all.filter((r) => Date.parse(r.ready) - at < together).length }
})
const place = (h: { start: string; end: string }) => {
  const left = props.scale!.at(Date.parse(h.start))
  return { left: `${left * 100}%`, width: `${Math.max(0.3, (props.scale!.at(Date.parse(h.end)) - left) * 100)}%` }
}
</script>

<template>
  <div class="folded">
    <template v-if="today">
      <span v-if="inHand" class="hand">
        <button class="word" type="button" @click="open('lot', inHand.lots[0]!.lotId)">
          Now: {{ inHand.stepName.toLowerCase() }}, {{ inHand.pieces }}
          {{ inHand.pieces === 1 ? 'piece' : 'pieces' }}</button
        ><b v-if="over >= 1" class="over">, {{ duration(over) }} over</b
        ><span v-else-if="!inHand.runningSince" class="quiet">, put down</span
        ><span v-if="others" class="quiet"> and {{ others }} more</span>
      </span>
      <span v-else-if="today.opens" class="hand"
        ><b>Closed.</b>
        <template v-if="today.first">
          {{ moment(today.first.at, thisMinute) }}: {{ today.first.stepName.toLowerCase() }}, {{ today.first.pieces }} ×
          {{ today.first.product }} first
        </template>
        <template v-else> Hands again {{ moment(today.opens, thisMinute) }}</template></span
      >
      <span v-else class="hand"><b>Nothing in hand.</b> {{ readyLots }} ready</span>
      <span v-if="next" class="next">
        <button class="word" type="button" @click="open('ready', next.at / 60000)">
          Next ready {{ moment(next.at, thisMinute) }}<template v-if="next.lots > 1"> ({{ next.lots }} lots)</template>
        </button>
      </span>
      <span v-if="today.closes" class="quiet until">Hands until {{ clock(today.closes) }}</span>
    </template>
    <span v-if="day && scale" class="thin drawn" aria-hidden="true">
      <i v-for="o in day.open" :key="o.start" class="open" :style="place(o)" />
      <i
        v-for="h in hands"
        :key="`${h.lotId}-${h.step}-${h.start}`"
        class="bar"
        :class="{ done: h.state === 'done' }"
        :style="place(h)"
      />
      <i class="needle" :style="{ left: `${scale.at(now) * 100}%` }" />
    </span>
  </div>
</template>

<style scoped>
.folded {
  display: grid;
  grid-template-columns: auto auto auto minmax(120px, 36%);
  gap: 0 28px;
  align-items: center;
  height: 36px;
  min-width: 0;
  font-size: 14px;
  white-space: nowrap;
}
.folded > * {
  overflow: hidden;
  text-overflow: ellipsis;
}
/* What is in hand gives way where there is little room, by how much it is over does not. */
.hand {
  display: flex;
  align-items: center;
  min-width: 0;
  white-space: pre;
}
.hand > * {
  flex: none;
}
.hand > .word {
  flex: 0 1 auto;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  font-weight: 650;
  text-decoration: none;
}
.word:hover {
  text-decoration: underline;
}
.over {
  color: var(--brick);
}
.next .word {
  color: var(--glaze);
  font-weight: 650;
  text-decoration: none;
}
/* In its place from the beginning, whether what stands before it has come or not. */
.thin {
  grid-column: 4;
  position: relative;
  height: 14px;
  background: var(--closed);
}
.thin i {
  position: absolute;
  inset-block: 0;
}
.open {
  background: #f3ede1;
}
.bar {
  background: var(--clay);
  border-right: 1px solid var(--sheet);
}
.bar.done {
  background: var(--clay-done);
}
.needle {
  width: 2px;
  margin-left: -1px;
  background: var(--ink);
}
@media (max-width: 900px) {
  .folded {
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 0 14px;
  }
  .thin,
  .until {
    display: none;
  }
}
/* as tall as a wet finger needs */
@media (max-width: 640px), (pointer: coarse) {
  .folded {
    height: 48px;
  }
}
</style>
