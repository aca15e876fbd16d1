<script setup lang="ts">
import { useAnswer } from '../api/answers'
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import GroupHead from '../shared/GroupHead.vue'
import { money } from '../shared/money'
import { dateOf, dayName } from '../shared/time'
import { useTray } from '../shared/tray'

// What a customer had, the newest first.
const props = defineProps<{ id: number }>()
const { open } = useTray()
const { data: orders } = useAnswer('/api/customers/{id}/orders', () => ({ path: { id: props.id } }))
const standing = (o: Schemas['OrderHad']) =>
  o.state === 'open'
    ? `due ${dayName(o.dueOn, dateOf(thisMinute.value))}`
    : o.state === 'cancelled'
      ? 'cancelled'
      : 'handed over'
</script>

<template>
  <section aria-label="What they had">
    <GroupHead name="What they had" :count="orders ? String(orders.length) : ''" />
    <p v-if="orders?.length === 0" class="quiet">Nothing yet.</p>
    <ul>
      <li v-for="o in orders ?? []" :key="o.id">
        <span
          ><button class="word" type="button" @click="open('order', o.id)">Order {{ o.number }}</button>
          {{ o.what }}</span
        >
        <span class="end"
          >{{ money(o.total) }} <span class="quiet">{{ standing(o) }}</span></span
        >
      </li>
    </ul>
  </section>
</template>

<style scoped>
li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  align-items: center;
  justify-content: space-between;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
  overflow-wrap: anywhere;
}
.end {
  margin-left: auto;
  text-align: right;
}
</style>
