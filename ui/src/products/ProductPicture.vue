<script setup lang="ts">
import { computed, useId } from 'vue'
import type { Schemas } from '../api/client'
import { fileAt } from '../artwork/said'
import { outlinePath } from './outline'

// A drawing of the blank in its material, with its picture on it as large as it is
// printed, or, where there is none, a mark, and where each piece has its customer's, photos
// that stand for them; to the blank's own proportions. Through a
// clear film the blank shows wherever the picture is light.
const props = defineProps<{
  name: string
  blank: Schemas['Blank']
  picture?: Schemas['Picture']
  artwork?: Schemas['Artwork']
  opaque?: boolean
  ownPictures?: boolean
}>()

const box = 108
const shape = computed(() => props.blank.shape)
const upright = computed(() => ['cylinder', 'tapered'].includes(shape.value.kind))
const ratio = computed(() => {
  const s = shape.value
  if (s.kind === 'disc') return 1
  if (upright.value) return (s.heightMm ?? 1) / (s.diameterMm ?? 1)
  return (s.heightMm ?? 1) / (s.widthMm ?? 1)
})
const width = computed(() => Math.min(box, box / Math.max(ratio.value, 0.01)))
const height = computed(() => Math.max(16, Math.min(box, width.value * ratio.value)))
const x = computed(() => 60 - width.value / 2)
const y = computed(() => 60 - height.value / 2)
// The first word of its name, parted at its hyphen where there is one, and as large as it fits.
const mark = computed(() =>
  (props.name.trim().split(/\s+/)[0] ?? '')
    .toUpperCase()
    .slice(0, 24)
    .split(/(?<=.-)(?=.)/),
)
const size = computed(() => {
  const room = Math.min(width.value - 16, 76)
  return Math.min(15, room / (Math.max(1, ...mark.value.map((part) => part.length)) * 0.72))
})

const bodies: [RegExp, string, string][] = [
  [/^wood|^board/, '#e3bf8e', '#8a6a40'],
  [/^stone/, '#8b9094', '#5d6266'],
  [/^canvas|^fabric/, '#efe6d3', '#a89878'],
  [/^ceramic|^mug/, '#fbfaf5', '#9a9184'],
  [/^glass|^plastic/, '#dce9e6', '#7b9a96'],
  [/^metal/, '#c7ccd4', '#6f7887'],
  [/^candle/, '#f6edd6', '#c2ac7c'],
  [/^coated-board/, '#f3f0e8', '#8f8472'],
]
const body = computed(() => {
  const [, fill, edge] = bodies.find(([of]) => of.test(props.blank.surface)) ?? bodies[0]!
  const dark = props.blank.tone === 'dark'
  return { fill: dark ? '#474c57' : fill, edge, ink: dark ? '#f6f1e6' : '#3f2f1e' }
})
// The picture's box on the drawing; without a size it takes most of the face.
const placed = computed(() => {
  const s = shape.value
  const scale = s.kind === 'disc' ? 106 / (s.diameterMm ?? 1) : width.value / (s.widthMm ?? s.diameterMm ?? 1)
  const w = Math.min((props.picture?.widthMm || 0) * scale || width.value * 0.8, s.kind === 'disc' ? 106 : width.value)
  const h = Math.min(
    (props.picture?.heightMm || 0) * scale || height.value * 0.8,
    s.kind === 'disc' ? 106 : height.value,
  )
  return { x: 60 - w / 2, y: 60 - h / 2, w, h }
})
const id = useId()
// How wide it is at its foot, and the face of what lies flat.
const foot = computed(() =>
  shape.value.kind === 'tapered'
    ? (width.value * (shape.value.footMm ?? 1)) / (shape.value.diameterMm ?? 1)
    : width.value,
)
function face(inset: number): { d: string; transform?: string } {
  const w = width.value - 2 * inset
  const h = Math.max(2, height.value - 2 * inset)
  const s = shape.value
  // An outline of its own is kept in mm, from the corner of its box.
  if (s.kind === 'own')
    return {
      d: s.path ?? '',
      transform: `translate(${x.value + inset} ${y.value + inset}) scale(${w / (s.widthMm || 1)} ${h / (s.heightMm || 1)})`,
    }
  return { d: outlinePath(s.kind, x.value + inset, y.value + inset, w, h, Math.max(0, corner.value - inset)) }
}
const corner = computed(() => ((shape.value.cornerMm ?? 0) * width.value) / (shape.value.widthMm ?? 1) || 3)
const lip = computed(() => Math.min(10, width.value / 7))
</script>

<template>
  <svg viewBox="0 0 120 120" role="img" :aria-label="`A drawing of the ${name}`">
    <g v-if="shape.kind === 'disc'">
      <circle cx="60" cy="60" r="53" :fill="body.edge" />
      <circle cx="60" cy="60" r="49" :fill="body.fill" />
      <circle cx="60" cy="60" r="41" fill="none" :stroke="body.edge" stroke-opacity="0.45" />
      <circle v-if="blank.hangs" cx="60" cy="16" r="3" fill="#f5f1e8" :stroke="body.edge" />
    </g>
    <g v-else-if="upright">
      <path
        :d="`M${x} ${y + lip}L${60 - foot / 2} ${y + height - lip}A${foot / 2} ${lip} 0 0 0 ${60 + foot / 2} ${y + height - lip}L${x + width} ${y + lip}Z`"
        :fill="body.fill"
        :stroke="body.edge"
        stroke-width="2"
      />
      <ellipse
        :cx="60"
        :cy="y + lip"
        :rx="width / 2"
        :ry="lip"
        :fill="body.edge"
        fill-opacity="0.35"
        :stroke="body.edge"
        stroke-width="2"
      />
      <path
        v-if="blank.surface === 'candle'"
        :d="`M60 ${y + lip}v-9`"
        stroke="#3f2f1e"
        stroke-width="2.5"
        stroke-linecap="round"
      />
      <path
        v-if="blank.surface === 'mug-coated'"
        :d="`M${x + width} ${y + height * 0.3}q14 4 0 ${height * 0.4}`"
        fill="none"
        :stroke="body.edge"
        stroke-width="5"
      />
    </g>
    <g v-else>
      <path
        v-if="/^fabric/.test(blank.surface)"
        :d="`M${60 - width / 4} ${y + 4}q${width / 4} -26 ${width / 2} 0`"
        fill="none"
        :stroke="body.edge"
        stroke-width="4"
      />
      <path
        v-bind="face(0)"
        :fill="body.fill"
        :stroke="body.edge"
        stroke-width="3"
        vector-effect="non-scaling-stroke"
      />
      <path v-bind="face(6)" fill="none" :stroke="body.edge" stroke-opacity="0.45" vector-effect="non-scaling-stroke" />
      <circle
        v-if="blank.hangs"
        cx="60"
        :cy="y + (shape.kind === 'heart' ? height * 0.3 : 9)"
        r="2.5"
        fill="#f5f1e8"
        :stroke="body.edge"
      />
    </g>
    <g
      v-if="artwork?.thumb"
      :class="{ clear: !opaque }"
      :clip-path="upright || shape.kind === 'disc' ? undefined : `url(#${id}-face)`"
    >
      <clipPath :id="`${id}-face`"><path v-bind="face(1.5)" /></clipPath>
      <clipPath :id="id">
        <ellipse
          v-if="picture?.round || shape.kind === 'disc'"
          cx="60"
          cy="60"
          :rx="Math.min(placed.w / 2, shape.kind === 'disc' ? 49 : 60)"
          :ry="Math.min(placed.h / 2, shape.kind === 'disc' ? 49 : 60)"
        />
        <rect v-else :x="placed.x" :y="placed.y" :width="placed.w" :height="placed.h" />
      </clipPath>
      <image
        :href="fileAt(artwork.thumb)"
        :x="placed.x"
        :y="placed.y"
        :width="placed.w"
        :height="placed.h"
        preserveAspectRatio="xMidYMid slice"
        :clip-path="`url(#${id})`"
      />
    </g>
    <g
      v-else-if="ownPictures"
      :transform="`translate(60 60) scale(${Math.min(1, (Math.min(width, height) - 16) / 56)})`"
    >
      <g v-for="turn in [-9, 6]" :key="turn" :transform="`rotate(${turn})`">
        <rect x="-25" y="-20" width="50" height="40" fill="#fffef9" :stroke="body.edge" stroke-width="1.5" />
        <rect x="-21" y="-16" width="42" height="32" fill="#cfdeda" />
        <circle cx="9" cy="-7" r="4.5" fill="#e0a94e" />
        <path d="M-21 16V6l13-11 12 11 7-5 10 8v7Z" fill="#5f8a80" />
      </g>
    </g>
    <text
      v-else
      x="60"
      :y="65 - ((mark.length - 1) * size) / 2"
      text-anchor="middle"
      :font-size="size"
      :fill="body.ink"
    >
      <tspan v-for="(part, i) in mark" :key="i" x="60" :dy="i ? size : 0">{{ part }}</tspan>
    </text>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-width: 116px;
}
svg {
  isolation: isolate;
}
.clear {
  mix-blend-mode: multiply;
}
text {
  font-family: var(--heading);
  font-weight: 650;
  letter-spacing: 0.02em;
}
</style>
