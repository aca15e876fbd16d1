<script setup lang="ts">
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import { dateOf, dayName } from '../shared/time'

// Orders that move: whose, from when to when, and what that does to their promise.
type Move = Schemas['PromiseMove']
defineProps<{ moves: Move[] }>()
function lateness(m: Move) {
  if (!m.fromLate) return 'late'
  if (m.breaks) return 'later still'
  return m.mends ? 'less late' : 'late as before'
}
const day = (date: string) => (date ? dayName(date, dateOf(thisMinute.value)) : 'no day yet')
</script>

<template>
  <ul class="moves">
    <li v-for="m in moves" :key="m.orderId">
      <b>{{ m.customer }}</b> <span class="quiet">order {{ m.number }}</span
      ><br />
      ready {{ day(m.toOn) }} <span class="quiet">instead of {{ day(m.fromOn) }}</span
      ><template v-if="m.toLate"
        >, <b class="bad">{{ lateness(m) }}</b> <span class="quiet"> for {{ day(m.dueOn) }}</span></template
      ><template v-else-if="m.fromLate">, <b>in time again</b></template
      ><template v-else>, in time all the same</template>
    </li>
  </ul>
</template>

<style scoped>
.moves {
  display: grid;
  gap: 6px;
}
</style>
