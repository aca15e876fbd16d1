<script setup lang="ts">
import type { Schemas } from '../api/client'
import HourField from '../shared/HourField.vue'
import { minuteOfEnd, timeOf } from '../shared/minutes'
import PickField from '../shared/PickField.vue'
import TextField from '../shared/TextField.vue'
import { everyDay, linesOf, withLine, without, type Line } from './machineHours'
import { weekdays } from './weekdays'

// How many there are of each machine and place, and when it can be used: at any
// time, where nothing is said.
type Machine = Schemas['Machine']
defineProps<{ fault: (field: string) => string }>()
const machines = defineModel<Machine[]>({ required: true })

const names: Record<Machine['machine'], { label: string; one: string }> = {
  press: { label: 'Heat presses', one: 'the press' },
  'hot-air': { label: 'Places for hot air', one: 'the hot air' },
  'spray-place': { label: 'Places to spray', one: 'the spray place' },
  turner: { label: 'Spindles of the turner', one: 'the turner' },
}
const days = [{ value: everyDay, name: 'every day' }, ...weekdays.map((name, value) => ({ value, name }))]
const ends = ['fromMinute', 'toMinute'] as const

const put = (m: Machine, line: Line, to: Partial<Line>) => (m.hours = withLine(m.hours, { ...line, ...to }))
const add = (m: Machine) => put(m, { day: everyDay, fromMinute: 480, toMinute: 1200, at: [] }, {})
</script>

<template>
  <ul>
    <li v-for="(m, i) in machines" :key="m.machine">
      <fieldset class="machine">
        <legend class="spoken">{{ names[m.machine].label }}</legend>
        <TextField v-model="m.count" :label="names[m.machine].label" :fault="fault(`[${i}].count`)" numeric />
        <div class="hours">
          <p v-if="!m.hours.length" class="quiet">at any time</p>
          <div v-for="(line, k) in linesOf(m.hours)" :key="k" class="line">
            <PickField
              bare
              :label="`Days of ${names[m.machine].one}`"
              :model-value="line.day"
              :choices="days"
              @update:model-value="put(m, line, { day: $event })"
            />
            <HourField
              v-for="end in ends"
              :key="end"
              bare
              :label="`${names[m.machine].one} ${end === 'fromMinute' ? 'from' : 'to'}`"
              :model-value="timeOf(line[end])"
              :wrong="line.at.some((at) => Boolean(fault(`[${i}].hours[${at}].${end}`)))"
              @update:model-value="put(m, line, { [end]: minuteOfEnd(end, $event) })"
            />
            <button class="word" type="button" @click="m.hours = without(m.hours, line)">take out</button>
            <template v-for="at in line.at.slice(0, 1)" :key="at">
              <p v-for="end in ends" v-show="fault(`[${i}].hours[${at}].${end}`)" :key="end" class="bad" role="alert">
                {{ fault(`[${i}].hours[${at}].${end}`) }}
              </p>
            </template>
          </div>
          <button class="word" type="button" @click="add(m)">
            {{ m.hours.length ? 'Add hours' : `Only at some hours` }}
          </button>
        </div>
      </fieldset>
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  gap: 8px;
}
.machine {
  margin: 0;
  padding: 0;
  border: 0;
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr);
  gap: 4px 16px;
  align-items: end;
}
.hours {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
  min-height: 34px;
}
.line {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 84px 84px auto;
  gap: 4px 8px;
  align-items: center;
  width: 100%;
}
.bad {
  grid-column: 1 / -1;
}
@media (max-width: 640px) {
  .machine {
    grid-template-columns: minmax(0, 1fr);
  }
  .line {
    grid-template-columns: 1fr 1fr;
  }
  .word {
    min-height: 48px;
    justify-self: start;
  }
}
</style>
