<script setup lang="ts">
import EmptyNote from '../shared/EmptyNote.vue'
import { useAnswer } from '../api/answers'
import { thisMinute } from '../shared/clock'
import { moment } from '../shared/time'
import { seesBusiness } from '../shared/settings'
import { useTray } from '../shared/tray'
import AccountPanel from '../batches/AccountPanel.vue'
import ThingTrail from '../trail/ThingTrail.vue'

// A batch: its lots and where they are, its card for the bench, and what happened to it.
const props = defineProps<{ id: number }>()
const { open } = useTray()
const { data: batch, error } = useAnswer('/api/batches/{id}', () => ({ path: { id: props.id } }))
// The panel reads it under the same key; here it is waited for, so that nothing is pushed down.
const { isLoading: reckoning } = useAnswer('/api/batches/{id}/account', () => ({ path: { id: props.id } }), {
  enabled: seesBusiness,
})
</script>

<template>
  <EmptyNote v-if="error">{{ error.message }} It may have been finished a while ago.</EmptyNote>
  <div v-else-if="batch && !reckoning" class="batch">
    <h1>Batch {{ batch.number }}</h1>
    <p>
      <RouterLink v-if="seesBusiness" :to="`/products/${batch.productId}`">{{ batch.productName }}</RouterLink>
      <template v-else>{{ batch.productName }}</template>
      <span class="quiet"> · {{ batch.state }}</span>
    </p>
    <p>
      <a class="side link" :href="`/api/batches/${batch.id}/card.pdf`" download>Batch card to print (PDF)</a>
    </p>
    <h2>Lots</h2>
    <ul>
      <li v-for="l in batch.lots" :key="l.lotId">
        <button class="word" type="button" @click="open('lot', l.lotId)">Lot {{ l.lot }}</button>
        <span>
          {{ l.pieces }} {{ l.pieces === 1 ? 'piece' : 'pieces' }}<template v-if="l.pilot">, the pilot</template> ·
          {{ l.stepName ? `next: ${l.stepName.toLowerCase()}` : 'through' }}
          <span v-if="l.readyAt" class="quiet"> · ready {{ moment(l.readyAt, thisMinute) }}</span>
        </span>
      </li>
    </ul>
    <AccountPanel v-if="seesBusiness" :batch-id="batch.id" :product-id="batch.productId" />
    <h2>What happened</h2>
    <ol class="events">
      <li v-for="(e, i) in batch.events" :key="i">
        <span class="quiet">{{ moment(e.at, thisMinute) }}</span> {{ e.text }}
      </li>
    </ol>
    <ThingTrail :id="batch.id" about="batches" />
  </div>
</template>

<style scoped>
.batch {
  display: grid;
  gap: 8px;
}
.batch h2 {
  margin-top: 10px;
}
.link {
  display: inline-flex;
  align-items: center;
  color: inherit;
  text-decoration: none;
}
li .word {
  flex: none;
}
li {
  display: flex;
  gap: 10px;
  padding: 5px 0;
  border-top: 1px solid var(--line);
}
.events li {
  display: block;
  overflow-wrap: anywhere;
}
</style>
