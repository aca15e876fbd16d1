<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'

// Cost of a piece over the size of the batch, the steps where another sheet,
// pack or lot begins, and the size past which little is saved.
const props = defineProps<{ curve: Schemas['Curve']; at?: number }>()

const w = 380
const h = 190
const left = 34
const points = computed(() => props.curve.points)
const most = computed(() => points.value.length)
const values = computed(() => points.value.map((p) => Number(p.cost)))
const low = computed(() => Math.floor(Math.min(...values.value) * 0.95))
// The first few sizes cost so much more that the curve is drawn from three on.
const shown = computed(() => (most.value > 3 ? points.value.filter((p) => p.pieces >= 3) : points.value))
const high = computed(() => Math.max(...shown.value.map((p) => Number(p.cost))))
const x = (pieces: number) => left + ((w - left - 12) * pieces) / most.value
const y = (cost: number) => 12 + (h - 40) * (1 - (cost - low.value) / Math.max(0.01, high.value - low.value))
const path = computed(() =>
  shown.value.map((p, i) => `${i ? 'L' : 'M'}${x(p.pieces).toFixed(1)} ${y(Number(p.cost)).toFixed(1)}`).join(''),
)
const pointAt = (pieces: number | undefined) => points.value.find((p) => p.pieces === pieces)
const enough = computed(() => pointAt(props.curve.enough))
const here = computed(() => pointAt(props.at))
const begun = computed(() => shown.value.filter((p) => p.begins.length > 0))
const marks = computed(() => [1, 2, 3, 4].map((q) => Math.round((most.value * q) / 4)))
const levels = computed(() => [low.value, (low.value + high.value) / 2, high.value])
const sentence = computed(() =>
  points.value
    .filter((p) => [1, 6, 12, 24, 48, props.at].includes(p.pieces))
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
      <text v-for="n in marks" :key="n" :x="x(n)" :y="h - 8" text-anchor="middle">{{ n }}</text>
      <path :d="path" class="curve" />
      <g v-for="p in begun" :key="p.pieces">
        <title>{{ p.pieces }} pieces begin {{ p.begins.join(', ') }}</title>
        <rect :x="x(p.pieces) - 4" :y="h - 30" width="8" height="10" fill="transparent" />
        <line :x1="x(p.pieces)" :x2="x(p.pieces)" :y1="h - 29" :y2="h - 22" class="begun" />
      </g>
      <circle v-if="here" :cx="x(here.pieces)" :cy="y(Number(here.cost))" r="5" class="here" />
      <g v-if="enough">
        <circle :cx="x(enough.pieces)" :cy="y(Number(enough.cost))" r="5" class="dot" />
        <text :x="x(enough.pieces)" :y="y(Number(enough.cost)) - 12" text-anchor="middle" class="strong">
          past {{ enough.pieces }} little is saved
        </text>
      </g>
    </svg>
    <figcaption class="quiet">
      cost of a piece, by pieces in the batch<template v-if="begun.length"
        >; the ticks are where another sheet, pack or lot begins</template
      >
    </figcaption>
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
.begun {
  stroke: var(--night);
  stroke-width: 2;
}
.here {
  fill: var(--sheet);
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
