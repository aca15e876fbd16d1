<script setup lang="ts">
import TimeField from '../shared/TimeField.vue'
import DateField from '../shared/DateField.vue'
import TextField from '../shared/TextField.vue'
import TickBox from '../shared/TickBox.vue'
import { lastOf, leftAt, shifted, type PastRow } from './pastSteps'
import { countIn } from '../shared/reading'

// The steps of a batch made before, each with its true time and what was lost in it.
const props = defineProps<{ pieces: number; names: string[]; fault: (field: string) => string }>()
const rows = defineModel<PastRow[]>({ required: true })
const done = defineModel<number>('done', { required: true })

const set = (i: number, to: Partial<PastRow>) =>
  (rows.value = rows.value.map((r, k) => (k === i ? { ...r, ...to } : r)))
const move = (i: number, to: Partial<PastRow>) => {
  const { date, time } = { ...rows.value[i]!, ...to }
  rows.value = shifted(rows.value, i, { date, time })
}
const lose = (i: number, count: unknown) =>
  set(i, { lost: lastOf(leftAt(rows.value, i, props.pieces), countIn(count)) })
const toggle = (i: number, n: number) => {
  const { lost } = rows.value[i]!
  set(i, { lost: lost.includes(n) ? lost.filter((m) => m !== n) : [...lost, n] })
}
const lostFault = (i: number) => props.fault(`steps[${i}].reason`) || props.fault(`steps[${i}].lost[0]`)
</script>

<template>
  <p class="quiet names" aria-hidden="true">
    <span>done</span><span>begun</span><span>minutes</span><span>lost</span><span />
  </p>
  <ol>
    <li v-for="(r, i) in rows" :key="i" :class="{ later: i >= done }">
      <TickBox :model-value="i < done" @update:model-value="done = i < done ? i : i + 1">
        <b>{{ r.name }}</b><span v-if="i >= done" class="quiet">, not done yet</span>
      </TickBox>
      <template v-if="i < done">
        <span class="when">
          <DateField
            bare
            :model-value="r.date"
            :label="`${r.name}: begun on`"
            @update:model-value="move(i, { date: $event })"
          />
          <TimeField
            bare
            :model-value="r.time"
            :label="`${r.name}: begun at`"
            :wrong="Boolean(fault(`steps[${i}].startedAt`))"
            @update:model-value="move(i, { time: $event })"
          />
        </span>
        <TextField
          lazy
          numeric
          label="minutes"
          :model-value="r.minutes"
          :fault="fault(`steps[${i}].minutes`)"
          maxlength="4"
          :aria-label="`${r.name}: minutes`"
          @update:model-value="set(i, { minutes: Number($event) })"
        />
        <span v-if="names.length" class="lost" role="group" :aria-label="`${r.name}: lost`">
          <span class="quiet">lost</span>
          <button
            v-for="n in leftAt(rows, i, pieces)"
            :key="n"
            class="side"
            type="button"
            :aria-pressed="r.lost.includes(n)"
            @click="toggle(i, n)"
          >
            {{ names[n - 1] }}
          </button>
        </span>
        <TextField
          v-else
          lazy
          numeric
          label="lost"
          :model-value="r.lost.length"
          :aria-label="`${r.name}: lost`"
          maxlength="3"
          @update:model-value="lose(i, $event)"
        />
        <TextField
          v-if="r.lost.length"
          class="why"
          label="because"
          placeholder="because"
          :model-value="r.reason"
          :fault="lostFault(i)"
          maxlength="200"
          :aria-label="`${r.name}: why they were lost`"
          @update:model-value="set(i, { reason: String($event) })"
        />
        <p v-if="fault(`steps[${i}].startedAt`)" class="bad wide" role="alert">{{ fault(`steps[${i}].startedAt`) }}</p>
      </template>
    </li>
  </ol>
</template>

<style scoped>
ol {
  width: 100%;
  margin: 0;
  padding: 0;
  list-style: none;
}
li,
.names {
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) 250px 90px 90px minmax(0, 1fr);
  gap: 6px 14px;
  align-items: center;
  width: 100%;
  margin: 0;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
}
@media (min-width: 901px) {
  /* the names stand once, over the columns */
  li :deep(.field > label),
  .lost > .quiet {
    position: absolute;
    width: 1px;
    height: 1px;
    overflow: hidden;
    clip-path: inset(50%);
  }
}
.later {
  color: var(--soft);
}
.when {
  display: grid;
  grid-template-columns: 3fr 2fr;
  gap: 6px;
}
.lost {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  grid-column: 4 / -1;
}
.lost .side {
  min-height: 34px;
  padding: 0 10px;
}
.lost .side[aria-pressed='true'] {
  background: var(--brick);
  color: var(--paper);
}
.wide {
  grid-column: 1 / -1;
}
@media (max-width: 900px) {
  .names {
    display: none;
  }
  li {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
  li > :first-child,
  .when,
  .lost,
  .why {
    grid-column: 1 / -1;
  }
}
</style>
