<script setup lang="ts">
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import { money } from '../shared/money'
import { dateOf, dayName } from '../shared/time'
import { useTray } from '../shared/tray'
import { proposeReceipt } from '../stores/receipt'
import { quantity } from '../stores/words'

// What has to be bought for the planned work, in the cheapest packs, by supplier.
defineProps<{
  lists: Schemas['ShoppingList'][]
  notCounted: Schemas['NotCounted'][]
  riders: Schemas['Rider'][]
}>()
const { open } = useTray()

function hasCome(list: Schemas['ShoppingList']) {
  proposeReceipt(list)
  open('receipt')
}
const soonest = (list: Schemas['ShoppingList']) =>
  list.lines.map((l) => l.orderBy).reduce((a, b) => (a < b ? a : b), '9999-12-31')
</script>

<template>
  <section aria-labelledby="to-buy">
    <h2 id="to-buy">To buy</h2>
    <p v-if="lists.length === 0" class="quiet">
      {{
        notCounted.length
          ? 'Of what is kept count of there is enough for all that is planned.'
          : 'Nothing: what is there is enough for all that is planned.'
      }}
    </p>
    <article v-for="l in lists" :key="l.supplier">
      <header>
        <h3>{{ l.supplier || 'Never bought yet' }}</h3>
        <span class="by">order {{ dayName(soonest(l), dateOf(thisMinute)) }}</span>
      </header>
      <ul>
        <li v-for="(line, i) in l.lines" :key="`${line.materialId}-${i}`">
          <button class="word" type="button" @click="open('material', line.materialId)">{{ line.name }}</button>
          <span v-if="line.pack">{{ line.packs }} × {{ line.pack }}</span>
          <span class="quiet">{{ quantity(line.missing, line.unit) }} missing</span>
          <span v-if="line.hazard" class="hazard">{{ line.hazard }}</span>
        </li>
      </ul>
      <p v-if="l.supplier" class="sum">
        <span class="quiet">about {{ money(l.total) }}</span>
        <button class="side" type="button" @click="hasCome(l)">It has come</button>
      </p>
    </article>
    <article v-if="notCounted.length" aria-label="Not counted">
      <header>
        <h3>Not counted: look</h3>
      </header>
      <ul>
        <li v-for="m in notCounted" :key="m.materialId">
          <button class="word" type="button" @click="open('material', m.materialId)">{{ m.name }}</button>
          <span class="quiet">{{ quantity(m.needed, m.unit) }} needed</span>
          <span v-if="m.hazard" class="hazard">{{ m.hazard }}</span>
        </li>
      </ul>
    </article>
    <template v-if="riders.length">
      <h2>Rides free</h2>
      <p v-for="(r, i) in riders" :key="i" class="quiet">
        {{ r.product }}: {{ r.free }} more {{ r.free === 1 ? 'print' : 'prints' }} on the last sheet of {{ r.sheet }}
      </p>
    </template>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 10px;
  align-content: start;
}
article {
  padding: 10px 12px;
  border: 1px solid var(--line);
  background: var(--sheet);
}
.hazard {
  flex-basis: 100%;
  color: var(--straw);
}
header,
.sum {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 10px;
}
.by {
  font-weight: 650;
}
li {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 10px;
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
}
.sum {
  align-items: center;
  margin-top: 6px;
}
</style>
