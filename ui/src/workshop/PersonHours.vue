<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import { dateOf } from '../shared/time'
import { minuteOf, timeOf } from './minutes'
import TextField from '../shared/TextField.vue'

// A person's week, one row a day, and the days they are away.
defineProps<{ fault: (field: string) => string; removable: boolean }>()
const emit = defineEmits<{ remove: [] }>()
const person = defineModel<Schemas['Person']>({ required: true })

const days = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday']
const week = [1, 2, 3, 4, 5, 6, 0]

const hoursOf = (weekday: number) =>
  person.value.hours.map((h, i) => ({ h, i })).filter(({ h }) => h.weekday === weekday)
const share = (minute: number) => `${(minute / 1440) * 100}%`
const total = computed(
  () => person.value.hours.reduce((sum, h) => sum + Math.max(0, h.toMinute - h.fromMinute), 0) / 60,
)

function set(i: number, end: 'fromMinute' | 'toMinute', time: string) {
  const minute = minuteOf(time)
  person.value.hours[i]![end] = end === 'toMinute' && minute === 0 ? 1440 : minute
}
const addHours = (weekday: number) => {
  const last = hoursOf(weekday).at(-1)?.h
  const from = last ? Math.min(1380, last.toMinute + 60) : 540
  person.value.hours.push({ weekday, fromMinute: from, toMinute: Math.min(1440, from + (last ? 60 : 360)) })
}
// By the studio's day, which is not everywhere the device's.
const addOff = () => {
  const today = dateOf(thisMinute.value)
  person.value.daysOff.push({ firstDay: today, lastDay: today })
}

// The same hours on several days, in one go; what stood on those days goes.
const several = ref<{ days: number[]; from: string; to: string } | null>(null)
const begin = () => (several.value = { days: [1, 2, 3, 4, 5], from: '09:00', to: '15:00' })
function setSeveral() {
  const { days: chosen, from, to } = several.value!
  person.value.hours = [
    ...person.value.hours.filter((h) => !chosen.includes(h.weekday)),
    ...chosen.map((weekday) => ({ weekday, fromMinute: minuteOf(from), toMinute: minuteOf(to) || 1440 })),
  ]
  several.value = null
}
</script>

<template>
  <fieldset class="person">
    <legend class="spoken">{{ person.name || 'Someone new' }}</legend>
    <TextField v-model="person.name" label="Name" :fault="fault('name')" maxlength="80" />
    <TextField
      v-model="person.hourCosts"
      label="Their hour costs"
      :fault="fault('hourCosts')"
      hint="Empty: the studio’s rate"
      inputmode="decimal"
      maxlength="12"
    />
    <div v-if="several" class="several" role="group" aria-label="The same hours on several days">
      <label v-for="d in week" :key="d" class="tick">
        <input v-model="several.days" type="checkbox" :value="d" :aria-label="days[d]" /> {{ days[d]!.slice(0, 3) }}
      </label>
      <span class="stretch">
        <input v-model="several.from" type="time" aria-label="On these days from" />
        <input v-model="several.to" type="time" aria-label="On these days to" />
        <button class="side" type="button" :disabled="!several.days.length" @click="setSeveral">Set these days</button>
        <button class="word" type="button" @click="several = null">Leave it</button>
      </span>
    </div>
    <ul>
      <li v-for="d in week" :key="d" class="day">
        <span>{{ days[d] }}</span>
        <div class="bar" aria-hidden="true">
          <i
            v-for="{ h, i } in hoursOf(d)"
            :key="i"
            :style="{ left: share(h.fromMinute), width: share(Math.max(0, h.toMinute - h.fromMinute)) }"
          />
        </div>
        <div class="hours">
          <div v-for="{ h, i } in hoursOf(d)" :key="i" class="stretch">
            <input
              type="time"
              :value="timeOf(h.fromMinute)"
              :aria-label="`${days[d]} from`"
              @change="set(i, 'fromMinute', ($event.target as HTMLInputElement).value)"
            />
            <input
              type="time"
              :value="timeOf(h.toMinute)"
              :aria-label="`${days[d]} to`"
              @change="set(i, 'toMinute', ($event.target as HTMLInputElement).value)"
            />
            <button
              class="word"
              type="button"
              :aria-label="`remove ${timeOf(h.fromMinute)} to ${timeOf(h.toMinute)} on ${days[d]}`"
              @click="person.hours.splice(i, 1)"
            >
              remove
            </button>
            <p v-if="fault(`hours[${i}].toMinute`) || fault(`hours[${i}].fromMinute`)" class="bad" role="alert">
              {{ fault(`hours[${i}].toMinute`) || fault(`hours[${i}].fromMinute`) }}
            </p>
          </div>
          <button class="word" type="button" @click="addHours(d)">
            {{ hoursOf(d).length ? 'more hours' : 'add hours' }}<span class="spoken"> on {{ days[d] }}</span>
          </button>
        </div>
      </li>
    </ul>
    <p class="quiet">{{ total }} h a week</p>
    <div v-for="(off, i) in person.daysOff" :key="i" class="off">
      <span>Away</span>
      <input v-model="off.firstDay" type="date" aria-label="Away from" /> to
      <input v-model="off.lastDay" type="date" aria-label="Away to" />
      <button class="word" type="button" @click="person.daysOff.splice(i, 1)">take out</button>
      <p v-if="fault(`daysOff[${i}].lastDay`) || fault(`daysOff[${i}].firstDay`)" class="bad" role="alert">
        {{ fault(`daysOff[${i}].lastDay`) || fault(`daysOff[${i}].firstDay`) }}
      </p>
    </div>
    <div class="words">
      <button v-if="!several" class="word" type="button" @click="begin">The same hours on several days</button>
      <button class="word" type="button" @click="addOff">Add days off</button>
      <button v-if="removable" class="word" type="button" @click="emit('remove')">No longer works here</button>
    </div>
  </fieldset>
</template>

<style scoped>
.person {
  display: grid;
  gap: 8px;
  margin: 0 0 8px;
  padding: 12px 14px;
  border: 1px solid var(--line);
  background: var(--sheet);
}
.day {
  display: grid;
  grid-template-columns: 84px minmax(60px, 1fr) auto;
  gap: 10px;
  align-items: center;
  padding: 2px 0;
}
.bar {
  position: relative;
  height: 12px;
  background: var(--closed);
}
.bar i {
  position: absolute;
  inset-block: 0;
  background: var(--clay);
}
.hours {
  display: grid;
  gap: 2px;
  width: 300px;
  justify-items: start;
}
.short {
  width: 110px;
}
.several {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 14px;
  align-items: center;
  padding: 8px 10px;
  border: 1px solid var(--line);
  background: var(--paper);
}
.several .tick {
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 32px;
}
.several .tick input {
  width: 20px;
  height: 20px;
  accent-color: var(--glaze);
}
.stretch,
.off,
.words {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
.words {
  gap: 20px;
}
input[type='time'],
input[type='date'] {
  min-height: 32px;
  padding: 2px 6px;
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  background: var(--sheet);
}
@media (max-width: 640px) {
  .day {
    grid-template-columns: 1fr;
    gap: 2px;
  }
  .hours {
    width: auto;
  }
  input[type='time'],
  input[type='date'],
  .several .tick {
    min-height: 48px;
  }
}
</style>
