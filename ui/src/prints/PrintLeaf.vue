<script setup lang="ts">
import { computed, useId } from 'vue'
import type { Schemas } from '../api/client'
import { cleanedAt, imageAt } from './placing'

// One leaf of the fold: the print as the printer prints it, or the blank as people see
// it, both to the same scale.
const props = defineProps<{
  page: Schemas['DesignPage']
  design: Schemas['Design']
  words: string
  printed?: boolean
  // where the picture is found by whoever has not signed in
  picture?: string
}>()
const id = useId()
const pad = computed(() => Math.max(4, props.page.widthMm * 0.06))
const least = computed(() => ({
  x: Math.min(0, props.page.print.xMm) - pad.value,
  y: Math.min(0, props.page.print.yMm) - pad.value,
}))
const view = computed(() => {
  const { print, widthMm, heightMm } = props.page
  const w = Math.max(widthMm, print.xMm + print.widthMm) + pad.value - least.value.x
  const h = Math.max(heightMm, print.yMm + print.heightMm) + pad.value - least.value.y
  return `${least.value.x} ${least.value.y} ${w} ${h}`
})
const image = computed(() => {
  const { artwork, print } = props.page
  if (!artwork?.view) return null
  // What goes round a wall is bent by the server, as it will be printed.
  if (props.page.bent || props.picture)
    return {
      href:
        props.picture ??
        `/api/products/${props.page.productId}/design/print?design=${encodeURIComponent(JSON.stringify(props.page.design))}`,
      x: 0,
      y: 0,
      width: print.widthMm,
      height: print.heightMm,
      transform: undefined,
    }
  return { href: cleanedAt(artwork, props.design.cleanUp), ...imageAt(props.design.placing, artwork.pixels, print) }
})
const mirror = computed(() =>
  props.printed && props.page.mirrored
    ? `translate(${props.page.print.xMm * 2 + props.page.print.widthMm} 0) scale(-1 1)`
    : undefined,
)
// The ground that people see: the blank's own, by what it is of and how light it is.
const grounds: [RegExp, string, string][] = [
  [/^wood|^board/, '#e3bf8e', '#8a6a40'],
  [/^stone/, '#8b9094', '#5d6266'],
  [/^canvas|^fabric/, '#efe6d3', '#a89878'],
  [/^glass|^plastic/, '#dce9e6', '#7b9a96'],
  [/^metal/, '#c7ccd4', '#6f7887'],
  [/^candle/, '#f6edd6', '#c2ac7c'],
]
const ground = computed(() => {
  const [, fill, edge] = grounds.find(([of]) => of.test(props.page.surface)) ?? ['', '#fbfaf5', '#9a9184']
  return { fill: props.page.tone === 'dark' ? '#474c57' : fill, edge }
})
const grain = computed(() => /^wood|^board/.test(props.page.surface) && props.page.tone !== 'dark')
const halo = computed(() => props.design.lettering?.haloMm ?? 0)
</script>

<template>
  <svg
    :viewBox="view"
    role="img"
    :aria-label="printed ? 'What the printer prints' : 'What people see'"
    preserveAspectRatio="xMidYMid meet"
  >
    <defs>
      <clipPath :id="`${id}-print`">
        <path :d="page.print.path" :transform="`translate(${page.print.xMm} ${page.print.yMm})`" />
      </clipPath>
      <clipPath :id="`${id}-blank`"><path :d="page.blankPath" /></clipPath>
      <pattern :id="`${id}-grain`" width="22" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(3)">
        <path
          d="M0 1.2q6 .8 11 0t11 0M0 3.6q5-.6 10 0t12 0"
          fill="none"
          stroke="#8a6a40"
          stroke-width=".16"
          opacity=".3"
        />
      </pattern>
    </defs>
    <template v-if="!printed">
      <path :d="page.blankPath" :fill="ground.fill" />
      <path v-if="grain" :d="page.blankPath" :fill="`url(#${id}-grain)`" />
    </template>
    <g :clip-path="printed ? undefined : `url(#${id}-blank)`" :class="{ clear: !printed && !page.opaque }">
      <g :transform="mirror">
        <g :clip-path="`url(#${id}-print)`">
          <path
            v-if="printed || page.opaque"
            :d="page.print.path"
            :transform="`translate(${page.print.xMm} ${page.print.yMm})`"
            fill="#fff"
          />
          <g :transform="`translate(${page.print.xMm} ${page.print.yMm})`">
            <image v-if="image" v-bind="image" preserveAspectRatio="none" />
            <template v-if="words">
              <path v-if="halo" :d="words" fill="none" stroke="#fff" :stroke-width="2 * halo" stroke-linejoin="round" />
              <path :d="words" :fill="design.lettering?.colour || '#000'" />
            </template>
          </g>
        </g>
      </g>
    </g>
    <path
      :d="page.blankPath"
      fill="none"
      :stroke="printed ? '#857c6c' : ground.edge"
      :stroke-width="printed ? 0.3 : 0.7"
      :stroke-dasharray="printed ? '1.5 1.5' : undefined"
      :transform="printed && page.mirrored ? `translate(${page.widthMm} 0) scale(-1 1)` : undefined"
    />
    <path
      :d="page.print.path"
      :transform="`${mirror ?? ''} translate(${page.print.xMm} ${page.print.yMm})`"
      fill="none"
      stroke="#857c6c"
      stroke-width=".25"
      stroke-dasharray=".8 .8"
    />
    <path
      v-if="page.rim"
      :d="page.rim.usable"
      fill="none"
      stroke="#2b6b61"
      stroke-width=".5"
      stroke-dasharray="3 1.5"
      :transform="printed && page.mirrored ? `translate(${page.widthMm} 0) scale(-1 1)` : undefined"
    />
    <circle
      v-if="design.hole"
      :cx="printed && page.mirrored ? page.widthMm - design.hole.xMm : design.hole.xMm"
      :cy="design.hole.yMm"
      :r="design.hole.diameterMm / 2"
      :fill="printed ? 'none' : '#f5f1e8'"
      :stroke="ground.edge"
      stroke-width=".5"
    />
    <g
      stroke="#a9482b"
      stroke-width=".5"
      :transform="printed && page.mirrored ? `translate(${page.widthMm} 0) scale(-1 1)` : undefined"
    >
      <path v-for="(line, i) in page.handle" :key="i" :d="line" :stroke-dasharray="i ? '.6 1.4' : '2 1.5'" />
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  height: 100%;
  isolation: isolate;
}
.clear {
  mix-blend-mode: multiply;
}
</style>
