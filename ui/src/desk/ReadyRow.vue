<script setup lang="ts">
import { duration } from '../shared/reading'
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import { dateOf, dayName, moment } from '../shared/time'
import { useTray } from '../shared/tray'
import ReadyRing from './ReadyRing.vue'

defineProps<{ lot: Schemas['ReadyLot']; busy: boolean; keyed: boolean }>()
const emit = defineEmits<{ take: [] }>()
const { open } = useTray()
</script>

<template>
  <li class="row">
    <ReadyRing :closing="Boolean(lot.mustStartBy)" />
    <div>
      <button class="opens" type="button" @click="open('lot', lot.lotId)">{{ lot.stepName }}</button>
      <p class="quiet">{{ lot.pieces.length }} × {{ lot.product }} · {{ duration(lot.minutes) }}</p>
      <p v-if="lot.whileResting" class="quiet">while it rests, best until {{ moment(lot.whileResting, thisMinute) }}</p>
      <p v-if="lot.waitsForPilot" class="quiet">waits for the pilot piece of its batch</p>
      <p v-if="lot.pilot" class="quiet">pilot piece: the others wait for it</p>
      <p v-if="lot.missed" class="bad">{{ lot.missed.why }} {{ lot.missed.fix }}</p>
      <p v-else-if="lot.mustStartBy" class="bad">must start by {{ moment(lot.mustStartBy, thisMinute) }}</p>
      <p v-if="lot.bestFrom" class="quiet">safe now, best from {{ moment(lot.bestFrom, thisMinute) }}</p>
      <p v-if="lot.late" class="bad">
        will miss its promise{{ lot.due ? `, ${dayName(dateOf(lot.due), dateOf(thisMinute))}` : '' }}
      </p>
    </div>
    <div class="right">
      <button class="side" type="button" :disabled="busy" :data-key="keyed ? 'take' : undefined" @click="emit('take')">
        Take up<span class="spoken">
          {{ lot.stepName }}, {{ lot.product }}, batch {{ lot.batch }}, lot {{ lot.lot }}</span
        >
      </button>
      <p class="quiet">since {{ moment(lot.since, thisMinute) }}</p>
    </div>
  </li>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 22px 1fr auto;
  gap: 0 10px;
  padding: 5px 0;
  line-height: 1.35;
  border-bottom: 1px solid var(--line);
}
.right {
  display: grid;
  gap: 1px;
  justify-items: end;
  align-content: start;
}
/* Beside a tray the columns are narrow: the step's name needs the room more. */
@container (max-width: 300px) {
  .right p {
    max-width: 5.5em;
    text-align: right;
  }
}
.right .side {
  min-height: 28px;
  padding: 0 12px;
}
.right p {
  font-size: 13px;
}
@media (max-width: 640px), (pointer: coarse) {
  .right .side {
    min-height: 48px;
  }
}
</style>
