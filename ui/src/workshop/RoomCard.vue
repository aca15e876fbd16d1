<script setup lang="ts">
import SwitchBox from '../shared/SwitchBox.vue'
import { figure } from '../shared/habit'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import { moment } from '../shared/time'
import RoomCurve from './RoomCurve.vue'
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

const hours = computed(() => room.value?.hours ?? [])
const slower = computed(() => {
  const r = room.value
  if (!r) return ''
  const part = (factor: number) => (factor < 1.05 ? 'as usual' : `${figure(factor, 1)} times as long`)
  return `In this air drying takes ${part(r.drySlower)}, curing ${part(r.cureSlower)}. No rest is ever shorter than its floor.`
})

const change = (to: { simulating?: boolean; raining?: boolean }) => {
  const { simulating, raining } = room.value!
  return tell(() => answerOf(api.PUT('/api/room', { body: { simulating, raining, ...to } })))
}
</script>

<template>
  <section id="room" ref="card" aria-labelledby="room-title">
    <h2 id="room-title">The room</h2>
    <template v-if="room">
      <p>
        <b v-if="room.celsius !== undefined && room.humidity !== undefined"
          >{{ figure(room.celsius, 1) }} °C, {{ Math.round(room.humidity * 100) }} % damp</b
        ><b v-else>{{ room.simulated && !room.simulating ? 'No sensor' : 'The sensor is silent' }}</b>
        <span v-if="room.readAt" class="quiet"> read {{ moment(room.readAt, thisMinute) }}</span>
      </p>
      <p v-if="room.advice" class="note">{{ room.advice }}</p>
      <p v-if="room.celsius !== undefined" class="quiet">{{ slower }}</p>
      <RoomCurve v-if="hours.length > 1" :hours="hours" />
      <template v-if="room.simulated">
        <p class="quiet">
          {{
            room.simulating
              ? 'This sensor is simulated: a day’s curve, not your room. A real one can take its place.'
              : 'Without a sensor nothing is said of your room’s air: mind the cold and the damp yourself.'
          }}
        </p>
        <SwitchBox
          :model-value="room.simulating"
          :disabled="busy"
          @update:model-value="change({ simulating: Boolean($event) })"
          >Simulate a sensor, to see what one would tell</SwitchBox
        >
        <SwitchBox
          v-if="room.simulating"
          :model-value="room.raining"
          :disabled="busy"
          @update:model-value="change({ raining: Boolean($event) })"
          >Simulate a rainy spell</SwitchBox
        >
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
</style>
