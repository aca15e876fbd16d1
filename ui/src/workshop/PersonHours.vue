<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import FieldRow from '../shared/FieldRow.vue'
import { minuteOf, timeOf } from './minutes'

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
const addOff = () => {
  const today = new Date().toISOString().slice(0, 10)
  person.value.daysOff.push({ firstDay: today, lastDay: today })
}
</script>

<template>
  <fieldset class="person">
    <legend class="spoken">{{ person.name || 'Someone new' }}</legend>
    <FieldRow v-slot="f" label="Name" :fault="fault('name')">
      <input
        :id="f.id"
        v-model="person.name"
        class="pick"
        maxlength="80"
        :aria-describedby="f.described"
        :aria-invalid="f.invalid"
      />
    </FieldRow>
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
  input[type='date'] {
    min-height: 48px;
  }
}
</style>
