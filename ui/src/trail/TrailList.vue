<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import { clock, dateOf, dayName } from '../shared/time'
import { by, fieldSaid } from './words'

// Entries of the trail, the newest first: what was done, by whom, and from which to which.
const props = defineProps<{ entries: Schemas['TrailEntry'][] }>()
// Of each entry so much is shown until all of it is asked for.
const changesAtOnce = 2
const fieldsAtOnce = 4
const whole = ref(new Set<number>())
const today = computed(() => dateOf(thisMinute.value))
const days = computed(() => {
  const all: { day: string; entries: Schemas['TrailEntry'][] }[] = []
  for (const e of props.entries) {
    const day = dateOf(e.at)
    if (all.at(-1)?.day !== day) all.push({ day, entries: [] })
    all.at(-1)!.entries.push(e)
  }
  return all
})
const short = (e: Schemas['TrailEntry']) =>
  e.changes.length > changesAtOnce || e.changes.some((c) => c.fields.length > fieldsAtOnce)
const changes = (e: Schemas['TrailEntry']) =>
  whole.value.has(e.revision) ? e.changes : e.changes.slice(0, changesAtOnce)
const fields = (e: Schemas['TrailEntry'], c: Schemas['TrailChange']) =>
  (whole.value.has(e.revision) ? c.fields : c.fields.slice(0, fieldsAtOnce)).map((f) =>
    fieldSaid(c.did, f, today.value),
  )
</script>

<template>
  <div v-for="d in days" :key="d.entries[0]!.revision" class="day">
    <h2>{{ dayName(d.day, today) }}</h2>
    <ol>
      <li v-for="e in d.entries" :key="e.revision">
        <p class="head">
          <span class="at">{{ clock(e.at) }}</span>
          <b>{{ e.doing || 'By itself' }}</b>
          <span v-if="e.doing || !e.itself" class="quiet">{{ by(e) }}</span>
        </p>
        <ul>
          <li v-for="(c, i) in changes(e)" :key="i">
            <span>{{ c.called }} {{ c.label }}</span>
            <span class="did" :class="c.did">{{ c.did }}</span>
            <span v-if="c.fields.length" class="quiet">{{ fields(e, c).join(' · ') }}</span>
            <span v-if="c.more && whole.has(e.revision)" class="quiet">and {{ c.more }} more fields</span>
          </li>
        </ul>
        <button v-if="short(e) && !whole.has(e.revision)" class="word" type="button" @click="whole.add(e.revision)">
          All of it
        </button>
        <p v-if="e.more && (whole.has(e.revision) || !short(e))" class="quiet">
          and {{ e.more }} more, which stand in the table
        </p>
      </li>
    </ol>
  </div>
</template>

<style scoped>
.day {
  display: grid;
  gap: 4px;
}
h2 {
  margin-top: 10px;
}
h2::first-letter {
  text-transform: uppercase;
}
ol > li {
  display: grid;
  gap: 2px;
  justify-items: start;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  align-items: baseline;
}
.at {
  font-variant-numeric: tabular-nums;
}
ul > li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 8px;
  align-items: baseline;
  overflow-wrap: anywhere;
}
.did {
  font-weight: 650;
}
.did.removed {
  color: var(--brick);
}
</style>
