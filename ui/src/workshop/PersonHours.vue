<script setup lang="ts">
import FoldBox from '../shared/FoldBox.vue'
import FieldPair from '../shared/FieldPair.vue'
import InTurn from '../shared/InTurn.vue'
import HourBar from './HourBar.vue'
import HourField from '../shared/HourField.vue'
import { computed, defineAsyncComponent, ref } from 'vue'
import { unit } from '../shared/money'
import { habit, timeOfDay } from '../shared/habit'
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import { dateOf } from '../shared/time'
import { work } from '../shared/words'
import { minuteOf, minuteOfEnd, timeOf } from '../shared/minutes'
import TextField from '../shared/TextField.vue'
import PersonWork from './PersonWork.vue'
import { weekdays as days } from './weekdays'

const DateField = defineAsyncComponent(() => import('../shared/DateField.vue'))

// A person's week, one row a day, and the days they are away.
defineProps<{ fault: (field: string) => string; removable: boolean }>()
const emit = defineEmits<{ remove: [] }>()
const person = defineModel<Schemas['Person']>({ required: true })

const week = computed(() => [0, 1, 2, 3, 4, 5, 6].map((d) => (d + habit.value.firstWeekday) % 7))

const hoursOf = (weekday: number) =>
  person.value.hours.map((h, i) => ({ h, i })).filter(({ h }) => h.weekday === weekday)
const total = computed(
  () => person.value.hours.reduce((sum, h) => sum + Math.max(0, h.toMinute - h.fromMinute), 0) / 60,
)

const ends = [
  { of: 'fromMinute', name: 'from' },
  { of: 'toMinute', name: 'to' },
] as const
function set(i: number, end: (typeof ends)[number]['of'], time: string) {
  person.value.hours[i]![end] = minuteOfEnd(end, time)
}
function drag(i: number, [fromMinute, toMinute]: number[]) {
  Object.assign(person.value.hours[i]!, { fromMinute, toMinute })
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
// Extra hours are proposed right after the day's own.
const addExtra = () => {
  const day = dateOf(thisMinute.value)
  const weekday = new Date(`${day}T12:00:00Z`).getUTCDay()
  const from = Math.min(1380, Math.max(540, ...hoursOf(weekday).map(({ h }) => h.toMinute)))
  person.value.extraHours.push({ day, fromMinute: from, toMinute: Math.min(1440, from + 120) })
}
function setExtra(i: number, end: (typeof ends)[number]['of'], time: string) {
  person.value.extraHours[i]![end] = minuteOfEnd(end, time)
}

// What sets somebody apart from the recipes’ usual maker, in a line.
const otherwise = computed(() => {
  const { pacePercent, leaves } = person.value
  const pace = pacePercent === 100 ? 'At the usual pace' : `Takes ${pacePercent} minutes for 100`
  return leaves.length ? `${pace}, leaves ${leaves.map((s) => work[s]).join(', ')} to others` : `${pace}, does all work`
})

// The same hours on several days, in one go; what stood on those days goes.
const several = ref<{ days: number[]; from: string; to: string } | null>(null)
const begin = () => (several.value = { days: [1, 2, 3, 4, 5], from: '09:00', to: '15:00' })
function setSeveral() {
  const { days: chosen, from, to } = several.value!
  person.value.hours = [
    ...person.value.hours.filter((h) => !chosen.includes(h.weekday)),
    ...chosen.map((weekday) => ({ weekday, fromMinute: minuteOf(from), toMinute: minuteOfEnd('toMinute', to) })),
  ]
  several.value = null
}
</script>

<template>
  <fieldset class="person">
    <legend class="spoken">{{ person.name || 'Someone new' }}</legend>
    <FieldPair columns="3fr 2fr">
      <TextField v-model="person.name" label="Name" :fault="fault('name')" maxlength="80" />
      <TextField
        v-model="person.hourCosts"
        :label="`Their hour costs, ${unit()}`"
        :fault="fault('hourCosts')"
        placeholder="as the studio’s"
        inputmode="decimal"
        maxlength="12"
      />
    </FieldPair>
    <div v-if="several" class="several" role="group" aria-label="The same hours on several days">
      <el-checkbox-group v-model="several.days" class="ticks">
        <el-checkbox v-for="d in week" :key="d" :value="d" :aria-label="days[d]">{{
          days[d]!.slice(0, 3)
        }}</el-checkbox>
      </el-checkbox-group>
      <span class="stretch">
        <HourField v-model="several.from" bare label="On these days from" />
        <HourField v-model="several.to" bare label="On these days to" />
      </span>
      <button class="side" type="button" :disabled="!several.days.length" @click="setSeveral">Set these days</button>
      <button class="word" type="button" @click="several = null">Leave it</button>
    </div>
    <ul>
      <InTurn v-for="d in week" :key="d"
        ><li class="day">
          <span class="weekday">{{ days[d] }}</span>
          <div class="stretches">
            <div v-for="{ h, i } in hoursOf(d)" :key="i" class="hours">
              <HourBar :day="days[d]!" :hours="h" class="bar" @drag="drag(i, $event)" />
              <HourField
                v-for="end in ends"
                :key="end.of"
                bare
                :model-value="timeOf(h[end.of])"
                :label="`${days[d]} ${end.name}`"
                :wrong="Boolean(fault(`hours[${i}].${end.of}`))"
                @update:model-value="set(i, end.of, $event)"
              />
              <button
                class="word sign"
                type="button"
                :aria-label="`remove ${timeOfDay(timeOf(h.fromMinute))} to ${timeOfDay(timeOf(h.toMinute))} on ${days[d]}`"
                @click="person.hours.splice(i, 1)"
              >
                ×
              </button>
              <p v-if="fault(`hours[${i}].toMinute`) || fault(`hours[${i}].fromMinute`)" class="bad" role="alert">
                {{ fault(`hours[${i}].toMinute`) || fault(`hours[${i}].fromMinute`) }}
              </p>
            </div>
            <span v-if="!hoursOf(d).length" class="quiet free">free</span>
          </div>
          <button
            class="word sign"
            type="button"
            :aria-label="`${hoursOf(d).length ? 'more hours' : 'add hours'} on ${days[d]}`"
            @click="addHours(d)"
          >
            +
          </button>
        </li></InTurn
      >
    </ul>
    <InTurn>
      <p class="quiet">{{ total }} h a week</p>
      <div v-for="(off, i) in person.daysOff" :key="i" class="off">
        <span>Away</span>
        <DateField v-model="off.firstDay" bare label="Away from" /> to
        <DateField v-model="off.lastDay" bare label="Away to" />
        <button class="word" type="button" @click="person.daysOff.splice(i, 1)">take out</button>
        <p v-if="fault(`daysOff[${i}].lastDay`) || fault(`daysOff[${i}].firstDay`)" class="bad" role="alert">
          {{ fault(`daysOff[${i}].lastDay`) || fault(`daysOff[${i}].firstDay`) }}
        </p>
      </div>
      <div v-for="(extra, i) in person.extraHours" :key="`extra ${i}`" class="off">
        <span>Also on</span>
        <DateField v-model="extra.day" bare label="Extra hours on" />
        <HourField
          v-for="end in ends"
          :key="end.of"
          bare
          :model-value="timeOf(extra[end.of])"
          :label="`Extra hours ${end.name}`"
          :wrong="Boolean(fault(`extraHours[${i}].${end.of}`))"
          @update:model-value="setExtra(i, end.of, $event)"
        />
        <button class="word" type="button" @click="person.extraHours.splice(i, 1)">take out</button>
        <p v-if="fault(`extraHours[${i}].toMinute`) || fault(`extraHours[${i}].day`)" class="bad" role="alert">
          {{ fault(`extraHours[${i}].toMinute`) || fault(`extraHours[${i}].day`) }}
        </p>
      </div>
      <FoldBox name="Pace, and what is left to others" :open="Boolean(fault('pacePercent') || fault('leaves'))">
        <template #name>{{ otherwise }}</template>
        <PersonWork v-model="person" :fault="fault" />
      </FoldBox>
      <div class="words">
        <button v-if="!several" class="word" type="button" @click="begin">The same hours on several days</button>
        <button class="word" type="button" @click="addOff">Add days off</button>
        <button class="word" type="button" @click="addExtra">Add hours on one day</button>
        <button v-if="removable" class="word" type="button" @click="emit('remove')">No longer works here</button>
      </div>
    </InTurn>
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
  grid-template-columns: 84px minmax(0, 1fr) auto;
  gap: 8px;
  align-items: start;
}
.weekday,
.free,
.sign {
  line-height: 34px;
}
.stretches,
.hours p {
  grid-column: 1 / -1;
}
.stretches {
  grid-column: auto;
  display: grid;
  gap: 2px;
}
.hours {
  display: grid;
  grid-template-columns: minmax(80px, 1fr) 84px 84px auto;
  gap: 2px 8px;
  align-items: center;
}
.hours .bar {
  margin: 0 8px;
  width: auto;
}
.hours :deep(.el-input) {
  --el-component-size: 34px;
}
.sign {
  min-width: 24px;
  text-decoration: none;
  font-size: 18px;
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
.ticks {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
}
.stretch,
.off,
.words {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  align-items: center;
}
.stretch .field {
  width: 100px;
}
.off .field {
  width: 150px;
}
.words {
  gap: 4px 20px;
}
@media (max-width: 640px) {
  .day {
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 0 8px;
    padding-bottom: 6px;
  }
  .stretches {
    grid-column: 1 / -1;
    grid-row: 2;
  }
  .hours {
    grid-template-columns: 1fr 1fr auto;
  }
  .hours .bar {
    grid-column: 1 / -1;
  }
  .hours :deep(.el-input) {
    --el-component-size: 48px;
  }
  .sign {
    min-width: 48px;
  }
  .sign,
  .weekday {
    line-height: 48px;
  }
}
</style>
