<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'

// How a material falls as the planned work takes it; what is missing hangs below the line.
const props = defineProps<{ need: Schemas['Need']; until: number }>()
const w = 168
const h = 36

const levels = computed(() => props.need.levels.map((l) => ({ at: Date.parse(l.at), left: Number(l.left) })))
const high = computed(() => Math.max(Number(props.need.onHand), 0.000001))
const low = computed(() => Math.min(0, ...levels.value.map((l) => l.left)))
const x = (t: number) =>
  Math.max(0, Math.min(1, (t - thisMinute.value) / Math.max(1, props.until - thisMinute.value))) * w
const y = (left: number) => 3 + (h - 6) * ((high.value - left) / (high.value - low.value))
const zero = computed(() => y(0))

// area is the stair from now to the end, above or below the line.
function area(clamp: (left: number) => number): string {
  let left = Number(props.need.onHand)
  let d = `M0 ${zero.value}V${y(clamp(left)).toFixed(1)}`
  for (const l of levels.value) {
    d += `H${x(l.at).toFixed(1)}`
    left = l.left
    d += `V${y(clamp(left)).toFixed(1)}`
  }
  return `${d}H${w}V${zero.value}Z`
}
const there = computed(() => area((left) => Math.max(0, left)))
const missing = computed(() => area((left) => Math.min(0, left)))
</script>

<template>
  <svg class="drawn" :viewBox="`0 0 ${w} ${h}`" :width="w" :height="h" aria-hidden="true">
    <path :d="there" class="there" />
    <path v-if="low < 0" :d="missing" class="missing" />
    <line x1="0" :x2="w" :y1="zero" :y2="zero" />
  </svg>
</template>

<style scoped>
svg {
  display: block;
  max-width: 100%;
}
.there {
  fill: var(--clay-done);
}
.missing {
  fill: var(--brick);
}
line {
  stroke: var(--edge);
}
</style>
