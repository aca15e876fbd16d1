<script setup lang="ts">
import { computed, ref } from 'vue'
import { useElementWidth } from '../shared/useElementSize'
import { moveAmong } from '../shared/keys'
import { clock, moment } from '../shared/time'
import type { Day, Hands, Resting } from './queries'
import { lanes, type Scale } from './scale'

// One day from 05:00 to 05:00: hands above, rests below. The day ribbon is one
// of these, the plan a column of them.
const props = defineProps<{
  day: Day
  hands: Hands[]
  rests: Resting[]
  scale: Scale
  now: number
  mostRests: number
  label: string
  axis?: 'full' | 'hours'
  picked?: number
}>()
const emit = defineEmits<{ pick: [lotId: number] }>()

const strip = ref<HTMLElement | null>(null)
const width = useElementWidth(strip)

const start = computed(() => Date.parse(props.day.start))
const end = computed(() => Date.parse(props.day.end))
const inDay = (item: { start: string; end: string }) =>
  Date.parse(item.start) < end.value && Date.parse(item.end) > start.value

const place = (item: { start: string; end: string }) => {
  const left = props.scale.at(Date.parse(item.start))
  return { left: `${left * 100}%`, width: `${Math.max(0, props.scale.at(Date.parse(item.end)) - left) * 100}%` }
}
const pixels = (item: { start: string; end: string }) =>
  (props.scale.at(Date.parse(item.end)) - props.scale.at(Date.parse(item.start))) * width.value

const handLanes = computed(() => lanes(props.hands.filter(inDay)))
const laneCount = computed(() => Math.max(1, ...handLanes.value.map((h) => h.lane + 1)))
const restLanes = computed(() => lanes(props.rests.filter(inDay)))
const shownRests = computed(() => restLanes.value.filter((r) => r.lane < props.mostRests))
const hidden = computed(() => restLanes.value.length - shownRests.value.length)
const restCount = computed(() => Math.min(props.mostRests, Math.max(1, ...restLanes.value.map((r) => r.lane + 1))))

const tall = 24
const slim = 9
const height = computed(() => laneCount.value * tall + restCount.value * slim + 4)

const short = (h: Hands) => h.name.split(',')[0]
const states: Record<string, string> = {
  done: 'done',
  inHand: 'in hand',
  planned: 'planned',
  tentative: 'not made up yet',
}
const told = (h: Hands) =>
  `${h.name}, ${h.pieces} × ${h.product}, ${clock(h.start)} to ${clock(h.end)}, ${states[h.state]}${h.person ? `, ${h.person}` : ''}${h.late ? ', will miss its promise' : ''}`
const toldRest = (r: Resting) =>
  `${r.pieces} × ${r.product} rest after ${r.name}, ready ${moment(r.ready, props.now)}${r.until ? `, at the latest ${moment(r.until, props.now)}` : ''}`
// A wedge narrows towards the moment that must not pass.
const closing = (r: Resting) => r.until !== undefined && Date.parse(r.until) < end.value && r.state !== 'done'

const open = computed(() => props.day.open.map((o) => place(o)))
const needle = computed(() =>
  props.now >= start.value && props.now < end.value ? `${props.scale.at(props.now) * 100}%` : null,
)
</script>

<template>
  <div class="wrap">
    <div v-if="axis" class="axis" aria-hidden="true">
      <span v-for="tick in scale.ticks" :key="tick.label" :style="{ left: `${tick.share * 100}%` }">{{
        axis === 'full' ? tick.label : tick.label.slice(0, 2)
      }}</span>
    </div>
    <div
      ref="strip"
      class="strip"
      role="group"
      :aria-label="label"
      :style="{ height: `${height}px` }"
      @keydown="moveAmong($event, strip)"
    >
      <span v-for="(o, i) in open" :key="`o${i}`" class="open" :style="o" />
      <span
        v-for="tick in scale.ticks"
        :key="`t${tick.label}`"
        class="tick"
        :style="{ left: `${tick.share * 100}%` }"
      />
      <component
        :is="item.lotId ? 'button' : 'span'"
        v-for="({ item, lane }, i) in handLanes"
        :key="`h${item.lotId}-${item.step}-${item.start}`"
        class="hands"
        :class="[item.state, { late: item.late, picked: item.lotId > 0 && item.lotId === picked }]"
        :style="{ ...place(item), top: `${lane * tall}px` }"
        :title="told(item)"
        :aria-label="item.lotId ? told(item) : undefined"
        :role="item.lotId ? undefined : 'img'"
        :data-among="item.lotId ? '' : undefined"
        :tabindex="item.lotId ? (i === 0 ? 0 : -1) : undefined"
        @click="item.lotId && emit('pick', item.lotId)"
      >
        <span v-if="pixels(item) >= 60" class="name" :class="{ 'word-late': item.late }" :data-pieces="item.pieces">{{
          item.late && pixels(item) < 110 ? '' : short(item)
        }}</span>
        <span v-else-if="!item.lotId" class="spoken">{{ told(item) }}</span>
      </component>
      <component
        :is="item.lotId ? 'button' : 'span'"
        v-for="{ item, lane } in shownRests"
        :key="`r${item.lotId}-${item.step}-${item.start}`"
        class="rest"
        :class="[item.state, { closing: closing(item) }]"
        :style="{ ...place(item), top: `${laneCount * tall + 3 + lane * slim}px` }"
        :title="toldRest(item)"
        :aria-label="item.lotId ? toldRest(item) : undefined"
        :data-among="item.lotId ? '' : undefined"
        :tabindex="item.lotId ? -1 : undefined"
        @click="item.lotId && emit('pick', item.lotId)"
      >
        <i class="hatch" />
      </component>
      <span v-if="hidden > 0" class="more">+{{ hidden }} more resting</span>
      <span v-if="needle" class="needle" :style="{ left: needle }" />
    </div>
  </div>
</template>

<style scoped>
.wrap {
  min-width: 0;
}
.axis {
  position: relative;
  height: 17px;
  font-size: 13px;
  line-height: 16px;
  color: var(--soft);
}
.axis span {
  position: absolute;
  padding-left: 2px;
}
.strip {
  position: relative;
  background: var(--closed);
  overflow: hidden;
}
.open {
  position: absolute;
  inset-block: 0;
  background: var(--sheet);
}
.tick {
  position: absolute;
  inset-block: 0;
  width: 1px;
  background: var(--line);
}
.hands {
  position: absolute;
  height: 22px;
  min-width: 3px;
  margin-top: 1px;
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
button.hands,
button.rest {
  cursor: pointer;
}
/* a target of 24 px at the least, however short the step */
button.hands::before {
  content: '';
  position: absolute;
  inset: 0 min(0px, (100% - 24px) / 2);
}
.hands.done {
  background: var(--clay-done);
  color: #5d2a1a;
}
.hands.inHand::after {
  content: '';
  position: absolute;
  inset: auto 0 0;
  height: 4px;
  background: var(--ink);
}
.hands.tentative {
  background: var(--sheet);
  border: 1.5px dashed var(--clay);
  color: var(--clay);
  line-height: 19px;
}
.hands.late {
  padding-right: 16px;
  clip-path: polygon(0 0, calc(100% - 14px) 0, calc(100% - 9px) 9px, calc(100% - 4px) 0, 100% 0, 100% 100%, 0 100%);
}
.hands.picked {
  outline: 2px solid var(--ink);
  outline-offset: -2px;
}
.hands:focus-visible,
.rest:focus-visible {
  outline: 2px solid var(--ink);
  outline-offset: -2px;
  z-index: 2;
  clip-path: none;
}
/* Drawn and not said: the name for who listens has both in whole words. */
.name::after {
  content: ' ' attr(data-pieces);
}
.word-late::before {
  content: 'late';
  margin-right: 5px;
  padding: 0 4px;
  background: var(--sheet);
  color: var(--brick);
}
.name {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
}
.rest {
  position: absolute;
  height: 9px;
  padding: 1px 0;
  border: 0;
  background: none;
}
.rest i {
  display: block;
  height: 7px;
}
.rest.done i {
  opacity: 0.45;
}
.rest.tentative i {
  background: none;
  border: 1px dashed var(--night);
}
.rest.closing i {
  border-radius: 0;
  clip-path: polygon(0 0, 70% 0, 100% 50%, 70% 100%, 0 100%);
}
.more {
  position: absolute;
  right: 4px;
  bottom: 0;
  padding: 0 4px;
  background: var(--sheet);
  font-size: 13px;
  line-height: 14px;
  color: var(--soft);
}
.needle {
  position: absolute;
  inset-block: 0;
  width: 2px;
  margin-left: -1px;
  background: var(--ink);
  z-index: 1;
  pointer-events: none;
}
@media (forced-colors: active) {
  .hands,
  .rest i,
  .needle {
    forced-color-adjust: none;
  }
}
</style>
