<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'

// Cost of a piece over the size of the batch, and the size past which little is saved.
const props = defineProps<{ points: Schemas['CurvePoint'][] }>()

const w = 380
const h = 190
const left = 34
const values = computed(() => props.points.map((p) => Number(p.cost)))
const low = computed(() => Math.floor(Math.min(...values.value) * 0.95))
// The first few sizes cost so much more that the curve is drawn from three on.
const shown = computed(() => props.points.filter((p) => p.pieces >= 3))
const high = computed(() => Math.max(...shown.value.map((p) => Number(p.cost))))
const x = (pieces: number) => left + ((w - left - 12) * pieces) / 48
const y = (cost: number) => 12 + (h - 40) * (1 - (cost - low.value) / Math.max(0.01, high.value - low.value))
const path = computed(() =>
  shown.value.map((p, i) => `${i ? 'L' : 'M'}${x(p.pieces).toFixed(1)} ${y(Number(p.cost)).toFixed(1)}`).join(''),
)
// Past this size a batch of 48 saves less than three per cent more.
const enough = computed(() => shown.value.find((p) => Number(p.cost) <= values.value[values.value.length - 1]! * 1.03))
const levels = computed(() => [low.value, (low.value + high.value) / 2, high.value])
const sentence = computed(() =>
  props.points
    .filter((p) => [1, 6, 12, 24, 48].includes(p.pieces))
    .map((p) => `${p.cost} in batches of ${p.pieces}`)
    .join(', '),
)
</script>

<template>
  <figure>
    <svg :viewBox="`0 0 ${w} ${h}`" role="img" :aria-label="`A piece costs ${sentence}`">
      <g v-for="l in levels" :key="l">
        <line :x1="left" :x2="w - 8" :y1="y(l)" :y2="y(l)" class="level" />
        <text :x="left - 6" :y="y(l) + 4" text-anchor="end">{{ l.toFixed(1) }}</text>
      </g>
      <text v-for="n in [12, 24, 36, 48]" :key="n" :x="x(n)" :y="h - 8" text-anchor="middle">{{ n }}</text>
      <path :d="path" class="curve" />
      <g v-if="enough">
        <circle :cx="x(enough.pieces)" :cy="y(Number(enough.cost))" r="5" class="dot" />
        <text :x="x(enough.pieces)" :y="y(Number(enough.cost)) - 12" text-anchor="middle" class="strong">
          past {{ enough.pieces }} little is saved
        </text>
      </g>
    </svg>
    <figcaption class="quiet">cost of a piece, by pieces in the batch</figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
.level {
  stroke: var(--line);
}
.curve {
  fill: none;
  stroke: var(--clay);
  stroke-width: 2.5;
}
.dot {
  fill: var(--ink);
}
text {
  font: 13px var(--text);
  fill: var(--soft);
}
.strong {
  font-weight: 650;
  fill: var(--ink);
}
</style>
