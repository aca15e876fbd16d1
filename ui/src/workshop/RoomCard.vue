<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import { clock, moment } from '../shared/time'
import { useRoom } from './useRoom'

// The room over the last day, and what its air does to rests.
const { room } = useRoom()
const { tell, busy } = useAct()

// The top line leads here.
const route = useRoute()
const card = ref<HTMLElement | null>(null)
watch(
  () => [route.hash, room.value !== undefined],
  async ([hash]) => {
    await nextTick()
    if (hash === '#room') card.value?.scrollIntoView({ block: 'end' })
  },
  { immediate: true },
)

const w = 520
const h = 120
const hours = computed(() => room.value?.hours ?? [])
const x = (i: number) => 34 + ((w - 44) * i) / Math.max(1, hours.value.length - 1)
const span = computed(() => {
  const all = hours.value.map((p) => p.celsius)
  const low = Math.floor(Math.min(...all, 14) / 2) * 2
  return { low, high: Math.max(Math.ceil(Math.max(...all, 24) / 2) * 2, low + 4) }
})
const y = (celsius: number) => 10 + (h - 34) * (1 - (celsius - span.value.low) / (span.value.high - span.value.low))
const damp = (humidity: number) => 10 + (h - 34) * (1 - humidity)
const line = (points: [number, number][]) =>
  points.map(([px, py], i) => `${i ? 'L' : 'M'}${px.toFixed(1)} ${py.toFixed(1)}`).join('')
const warmth = computed(() => line(hours.value.map((p, i) => [x(i), y(p.celsius)])))
const water = computed(() => line(hours.value.map((p, i) => [x(i), damp(p.humidity)])))
const sentence = computed(() => {
  const all = hours.value
  if (all.length === 0) return 'No readings yet'
  const low = Math.min(...all.map((p) => p.lowest))
  const high = Math.max(...all.map((p) => p.celsius))
  const wet = Math.max(...all.map((p) => p.humidity))
  return `Over the last day from ${low.toFixed(1)} to ${high.toFixed(1)} °C, at most ${Math.round(wet * 100)} % damp`
})
const slower = computed(() => {
  const r = room.value
  if (!r) return ''
  const part = (factor: number) => (factor < 1.05 ? 'as usual' : `${factor.toFixed(1)} times as long`)
  return `In this air drying takes ${part(r.drySlower)}, curing ${part(r.cureSlower)}. No rest is ever shorter than its floor.`
})

const change = (to: { simulating?: boolean; raining?: boolean }) => {
  const { simulating, raining } = room.value!
  return tell(() => answerOf(api.PUT('/api/room', { body: { simulating, raining, ...to } })))
}
const ticked = (event: Event) => (event.target as HTMLInputElement).checked
</script>

<template>
  <section id="room" ref="card" aria-labelledby="room-title">
    <h2 id="room-title">The room</h2>
    <template v-if="room">
      <p>
        <b v-if="room.celsius !== undefined && room.humidity !== undefined"
          >{{ room.celsius.toFixed(1) }} °C, {{ Math.round(room.humidity * 100) }} % damp</b
        ><b v-else>{{ room.simulated && !room.simulating ? 'No sensor' : 'The sensor is silent' }}</b>
        <span v-if="room.readAt" class="quiet"> read {{ moment(room.readAt, thisMinute) }}</span>
      </p>
      <p v-if="room.advice" class="note">{{ room.advice }}</p>
      <p v-if="room.celsius !== undefined" class="quiet">{{ slower }}</p>
      <svg v-if="hours.length > 1" :viewBox="`0 0 ${w} ${h}`" role="img" :aria-label="sentence">
        <line v-if="span.low < 10" :x1="34" :x2="w - 10" :y1="y(10)" :y2="y(10)" class="cold" />
        <path :d="water" class="water" />
        <path :d="warmth" class="warmth" />
        <text x="28" :y="y(span.high) + 5" text-anchor="end">{{ span.high }}°</text>
        <text x="28" :y="y(span.low) + 5" text-anchor="end">{{ span.low }}°</text>
        <text :x="34" :y="h - 4">{{ clock(hours[0]!.hour) }}</text>
        <text :x="w - 10" :y="h - 4" text-anchor="end">{{ clock(hours[hours.length - 1]!.hour) }}</text>
        <text :x="w / 2" :y="h - 4" text-anchor="middle">solid: warmth · dashed: damp</text>
      </svg>
      <template v-if="room.simulated">
        <p class="quiet">
          {{
            room.simulating
              ? 'This sensor is simulated: a day’s curve, not your room. A real one can take its place.'
              : 'Without a sensor nothing is said of your room’s air: mind the cold and the damp yourself.'
          }}
        </p>
        <label class="tick">
          <input
            type="checkbox"
            :checked="room.simulating"
            :disabled="busy"
            @change="change({ simulating: ticked($event) })"
          />
          Simulate a sensor, to see what one would tell
        </label>
        <label v-if="room.simulating" class="tick">
          <input
            type="checkbox"
            :checked="room.raining"
            :disabled="busy"
            @change="change({ raining: ticked($event) })"
          />
          Simulate a rainy spell
        </label>
      </template>
    </template>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 8px;
  align-content: start;
  scroll-margin-top: 16px;
}
svg {
  width: 100%;
  max-width: 560px;
}
path {
  fill: none;
  stroke-width: 2;
}
.warmth {
  stroke: var(--clay);
}
.water {
  stroke: var(--night);
  stroke-dasharray: 4 4;
}
.cold {
  stroke: var(--brick);
}
text {
  font: 13px var(--text);
  fill: var(--soft);
}
.tick {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 40px;
}
.tick input {
  width: 20px;
  height: 20px;
  accent-color: var(--glaze);
}
@media (max-width: 640px) {
  .tick {
    min-height: 48px;
  }
}
</style>
