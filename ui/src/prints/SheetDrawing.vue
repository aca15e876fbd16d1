<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'

// A sheet with its prints, small and to scale.
const props = defineProps<{
  layout: Schemas['Layout']
  sheet: Schemas['Sheet']
  paper: Schemas['Paper']
  name: string
}>()
const up = computed(() => Math.max(1, props.paper.up ?? 1))
const size = computed(() => {
  const { widthMm: w, heightMm: h } = props.paper
  return up.value > 1 ? { w: Math.max(w, h) / up.value, h: Math.min(w, h) } : { w, h }
})
const items = computed(() =>
  props.sheet.items.map((it) => {
    const k = props.layout.kinds[it.kind]!
    const w = it.turned ? k.heightMm : k.widthMm
    const h = it.turned ? k.widthMm : k.heightMm
    return { ...it, w, h, round: !!k.diameterMm, tone: it.kind % 4 }
  }),
)
</script>

<template>
  <svg :viewBox="`0 0 ${size.w} ${size.h}`" role="img" :aria-label="`${name}: ${items.length} prints`">
    <rect width="100%" height="100%" fill="#fffdf8" stroke="#857c6c" stroke-width="1.5" />
    <g v-for="(it, i) in items" :key="i" :class="[`tone-${it.tone}`, { spare: it.spare }]">
      <circle v-if="it.round" :cx="it.xMm + it.w / 2" :cy="it.yMm + it.h / 2" :r="it.w / 2" />
      <rect v-else :x="it.xMm" :y="it.yMm" :width="it.w" :height="it.h" />
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
}
g {
  fill: var(--glaze-wash);
  stroke: var(--glaze);
  stroke-width: 1;
}
.tone-1 {
  fill: #f3e3dc;
  stroke: var(--clay);
}
.tone-2 {
  fill: var(--night-wash);
  stroke: var(--night);
}
.tone-3 {
  fill: var(--straw-wash);
  stroke: var(--straw);
}
.spare {
  fill: none;
  stroke-dasharray: 3 2;
}
</style>
