<script setup lang="ts">
import { computed, useId } from 'vue'
import { clock, moment } from '../shared/time'
import type { Day, Resting } from './queries'
import { lanes, type Scale } from './scale'
import { ceilingsOf, endsOf, levelsOf, placesAt, type End } from './strip'

// The rack over a day: how full it is, its limit, and rings where rests end. The
// rests of what is picked are drawn for themselves, through days and nights.
const props = defineProps<{
  day: Day
  rests: Resting[]
  scale: Scale
  width: number
  height: number
  rackPlaces: number
  now: number
  own: Set<number> | null
}>()
const emit = defineEmits<{ ready: [minute: number]; pick: [lotId: number] }>()

const hatch = useId()
const levels = computed(() => levelsOf(props.day, props.rests))
const most = computed(() => Math.max(props.rackPlaces * 1.1, ...levels.value.map((l) => l.places), 1))
const y = (places: number) => props.height * (1 - places / most.value)
const x = (at: number) => props.scale.at(at) * props.width
const silhouette = computed(() => {
  let path = `M0 ${props.height}`
  for (const l of levels.value) path += `H${x(l.at).toFixed(1)}V${y(l.places).toFixed(1)}`
  return `${path}H${props.width}V${props.height}Z`
})
const limit = computed(() => y(props.rackPlaces))

// Rings must be told apart and hit: nearer than a finger's width they are one.
const ends = computed(() => endsOf(props.day, props.rests, (a, b) => x(b) - x(a) >= 24))
const edge = (at: number) => Math.min(props.height - 9, Math.max(9, y(placesAt(levels.value, at))))
// A ring at the very end of a day is not cut.
const clear = (at: number) => Math.min(props.width - 12, Math.max(12, at))
const pieces = (e: End) => e.rests.reduce((sum, r) => sum + r.pieces, 0)
const toldEnd = (e: End) =>
  e.rests.length === 1
    ? `${pieces(e)} × ${e.rests[0]!.product} ready after ${e.rests[0]!.name}, ${moment(e.at, props.now)}`
    : `${e.rests.length} rests end from ${moment(e.at, props.now)}, ${pieces(e)} pieces`
// Beside what is picked the others are told on hover and focus alone.
const fades = (e: End) => props.own !== null && !e.rests.some((r) => props.own!.has(r.lotId))
const over = (e: End) => e.at <= props.now

const ceilings = computed(() => ceilingsOf(props.day, props.rests))
const toldCeiling = (c: { at: number; rest: Resting }) =>
  `${c.rest.pieces} × ${c.rest.product}: what follows ${c.rest.name} must begin by ${clock(c.at)}`

const inDay = (r: Resting) =>
  Date.parse(r.start) < Date.parse(props.day.end) && Date.parse(r.end) > Date.parse(props.day.start)
const lifeLines = computed(() => {
  const own = props.own
  return own ? lanes(props.rests.filter((r) => own.has(r.lotId) && inDay(r))) : []
})
const mostLines = 2
const line = (r: Resting, lane: number) => {
  const [from, to] = [x(Date.parse(r.start)), x(Date.parse(r.end))]
  return { left: `${from}px`, width: `${Math.max(6, to - from)}px`, bottom: `${2 + (lane % mostLines) * 10}px` }
}
const toldRest = (r: Resting) =>
  `${r.pieces} × ${r.product} rest after ${r.name}, ready ${moment(r.ready, props.now)}${r.until ? `, at the latest ${moment(r.until, props.now)}` : ''}`
</script>

<template>
  <div class="rack" :style="{ height: `${height}px` }">
    <svg :width="width" :height="height" aria-hidden="true" :class="{ faded: own }">
      <defs>
        <pattern :id="hatch" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="8" height="8" class="ground" />
          <rect width="3.4" height="8" class="stripe" />
        </pattern>
      </defs>
      <path :d="silhouette" :fill="`url(#${hatch})`" />
      <line x1="0" :x2="width" :y1="limit" :y2="limit" class="limit" />
    </svg>
    <button
      v-for="{ item, lane } in lifeLines"
      :key="`${item.lotId}-${item.step}-${item.start}`"
      type="button"
      class="life"
      :class="{ done: item.state === 'done' }"
      :style="line(item, lane)"
      :data-told="toldRest(item)"
      :aria-label="toldRest(item)"
      data-among
      tabindex="-1"
      @click="emit('pick', item.lotId)"
    >
      <i class="hatch" />
    </button>
    <span
      v-for="c in ceilings"
      :key="`c${c.rest.lotId}-${c.rest.step}`"
      class="wedge drawn"
      role="img"
      :aria-label="toldCeiling(c)"
      :data-told="toldCeiling(c)"
      :style="{ left: `${x(c.at)}px` }"
    />
    <button
      v-for="e in ends"
      :key="`e${e.at}`"
      type="button"
      class="end"
      :class="{ over: over(e), faded: fades(e) }"
      :style="{ left: `${clear(x(e.at))}px`, top: `${edge(e.at)}px` }"
      :aria-label="toldEnd(e)"
      :data-told="toldEnd(e)"
      data-among
      tabindex="-1"
      @click="emit('ready', e.at / 60000)"
    >
      <i class="drawn" :class="{ many: e.rests.length > 1 && !fades(e) }">{{
        e.rests.length > 1 && !fades(e) ? e.rests.length : ''
      }}</i>
    </button>
  </div>
</template>

<style scoped>
.rack {
  position: relative;
}
svg {
  display: block;
}
svg.faded {
  opacity: 0.45;
}
.ground {
  fill: #eceae6;
}
.stripe {
  fill: #a5adbd;
}
.limit {
  stroke: var(--soft);
  stroke-width: 1.5;
  stroke-dasharray: 2 4;
}
.life {
  position: absolute;
  height: 10px;
  padding: 1px 0;
  border: 0;
  background: none;
  cursor: pointer;
}
.life i {
  display: block;
  height: 8px;
}
.life.done i {
  opacity: 0.6;
}
.life:focus-visible,
.end:focus-visible {
  outline: 2px solid var(--ink);
  outline-offset: -1px;
  z-index: 2;
}
.wedge {
  position: absolute;
  top: 0;
  width: 0;
  margin-left: -6px;
  border: 6px solid transparent;
  border-top: 9px solid var(--brick);
  border-bottom: 0;
}
.end {
  position: absolute;
  display: grid;
  place-items: center;
  width: 24px;
  height: 24px;
  margin: -12px 0 0 -12px;
  padding: 0;
  border: 0;
  background: none;
  cursor: pointer;
}
.end i {
  width: 12px;
  height: 12px;
  border: 2.5px solid var(--glaze);
  border-radius: 50%;
  background: var(--sheet);
}
.end i.many {
  min-width: 18px;
  width: auto;
  height: 18px;
  padding: 0 3px;
  border-radius: 9px;
  border-width: 2px;
  color: var(--glaze);
  font: 700 13px/14px var(--text);
  text-align: center;
}
.end.over i {
  border-color: #84aba6;
  color: #4f807b;
}
.end.faded {
  opacity: 0.4;
}
</style>
