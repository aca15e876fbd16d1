<script setup lang="ts">
import type { Schemas } from '../api/client'
import HourField from '../shared/HourField.vue'
import { minuteOfEnd, timeOf } from '../shared/minutes'
import PickField from '../shared/PickField.vue'
import { work } from '../shared/words'

// When some work is liked to be done: between two hours, or last of a day.
type Preference = Schemas['Preference']
const props = defineProps<{ fault: (field: string) => string }>()
const times = defineModel<Preference[]>({ required: true })

const stages = (Object.keys(work) as Preference['stage'][]).map((value) => ({ value, name: work[value] }))
const between = 0
const whens = [
  { value: between, name: 'between' },
  ...[60, 120, 180, 240].map((m) => ({
    value: m,
    name: m === 60 ? 'in the last hour' : `in the last ${m / 60} hours`,
  })),
]
const ends = ['fromMinute', 'toMinute'] as const
const add = () => times.value.push({ stage: 'spray', lastMinutes: between, fromMinute: 480, toMinute: 960 })
function move(p: Preference, end: (typeof ends)[number], time: string) {
  p[end] = minuteOfEnd(end, time)
}
const faultOf = (i: number) => ends.map((end) => props.fault(`[${i}].${end}`)).find(Boolean)
</script>

<template>
  <p class="quiet">Kept as long as no order is late for it, such as no spraying after four, or what is laid last.</p>
  <ul v-if="times.length">
    <li v-for="(p, i) in times" :key="i" class="time">
      <PickField v-model="p.stage" bare label="Work" :choices="stages" />
      <PickField v-model="p.lastMinutes" bare label="When" :choices="whens" />
      <template v-if="p.lastMinutes === between">
        <HourField
          v-for="end in ends"
          :key="end"
          bare
          :label="end === 'fromMinute' ? 'From' : 'To'"
          :model-value="timeOf(p[end])"
          :wrong="Boolean(fault(`[${i}].${end}`))"
          @update:model-value="move(p, end, $event)"
        />
      </template>
      <span v-else class="quiet rest">of the day’s hands</span>
      <button class="word" type="button" @click="times.splice(i, 1)">take out</button>
      <p v-if="faultOf(i)" class="bad" role="alert">{{ faultOf(i) }}</p>
    </li>
  </ul>
  <button class="side" type="button" @click="add">Add a time</button>
</template>

<style scoped>
ul {
  display: grid;
  gap: 6px;
}
.time {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 4fr) 84px 84px auto;
  gap: 4px 8px;
  align-items: center;
}
.rest {
  grid-column: span 2;
}
.bad {
  grid-column: 1 / -1;
}
.side {
  justify-self: start;
}
@media (max-width: 640px) {
  .time {
    grid-template-columns: 1fr 1fr;
    padding-bottom: 8px;
  }
  .word {
    min-height: 48px;
    justify-self: start;
  }
}
</style>
