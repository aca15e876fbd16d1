<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'

// A drawing of the blank with a mark of what goes on it, to the blank's own proportions.
const props = defineProps<{ product: Schemas['Card'] | Schemas['Detail'] }>()

const shape = computed(() => props.product.blank.shape)
const ratio = computed(() =>
  shape.value.kind === 'disc' ? 1 : (shape.value.heightMm ?? 1) / (shape.value.widthMm ?? 1),
)
const width = computed(() => Math.min(108, 108 / Math.max(ratio.value, 0.01)))
const height = computed(() => Math.min(108, width.value * ratio.value))
const name = computed(() => props.product.name.split(' ')[0]!.toUpperCase().slice(0, 10))
</script>

<template>
  <svg viewBox="0 0 120 120" role="img" :aria-label="`A drawing of the ${product.name}`">
    <g v-if="shape.kind === 'disc'">
      <circle cx="60" cy="60" r="53" fill="#8a6a40" />
      <circle cx="60" cy="60" r="49" fill="#e3bf8e" />
      <circle cx="60" cy="60" r="41" fill="none" stroke="#c99f68" />
      <circle cx="60" cy="60" r="30" fill="#f1dcb9" stroke="#d8b27e" />
      <circle cx="60" cy="14" r="3.4" fill="#f5f1e8" stroke="#8a6a40" />
    </g>
    <g v-else>
      <rect
        :x="60 - width / 2"
        :y="60 - height / 2"
        :width="width"
        :height="height"
        rx="2"
        fill="#e3bf8e"
        stroke="#8a6a40"
        stroke-width="3"
      />
      <path
        :d="`M${64 - width / 2} ${60 - height / 5}h${width - 8}M${64 - width / 2} ${60 + height / 4}h${width - 8}`"
        stroke="#d2a56b"
        fill="none"
      />
    </g>
    <path d="M34 62h52l-7 11H42z" fill="#2a2723" transform="translate(60 60) scale(.62) translate(-60 -66)" />
    <path
      d="M46 60l-7-19M60 60V39M74 60l6-19"
      stroke="#a9482b"
      stroke-width="3.4"
      transform="translate(60 60) scale(.62) translate(-60 -66)"
    />
    <text
      v-if="product.lettered"
      x="60"
      :y="shape.kind === 'disc' ? 83 : 60 + Math.min(20, height / 2 - 5)"
      text-anchor="middle"
    >
      {{ name }}
    </text>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 120px;
  aspect-ratio: 1;
}
text {
  font: 700 9.5px var(--text);
  fill: var(--ink);
}
</style>
