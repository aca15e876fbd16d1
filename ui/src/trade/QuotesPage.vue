<script setup lang="ts">
import { computed } from 'vue'
import { useAnswer } from '../api/answers'
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import EmptyNote from '../shared/EmptyNote.vue'
import GroupHead from '../shared/GroupHead.vue'
import { money } from '../shared/money'
import PageHead from '../shared/PageHead.vue'
import { runs } from '../shared/settings'
import ThingRow from '../shared/ThingRow.vue'
import { dateOf, dayName } from '../shared/time'
import { useTray } from '../shared/tray'
import WaitingRows from '../shared/WaitingRows.vue'

// What was offered: what they said yes to and is not an order yet, what still stands, what came of the rest.
type Quote = Schemas['Quote']
const { open } = useTray()
const { data: quotes } = useAnswer('/api/quotes')
const today = computed(() => dateOf(thisMinute.value))
const groups = computed(() => {
  const all = quotes.value ?? []
  return [
    { name: 'Accepted, the order to be taken', rows: all.filter((q) => q.state === 'accepted' && !q.orderId) },
    { name: 'Standing', rows: all.filter((q) => q.state === 'open') },
    { name: 'Before', rows: all.filter((q) => q.state !== 'open' && (q.state !== 'accepted' || q.orderId)) },
  ].filter((g) => g.rows.length > 0)
})
const stands = (q: Quote) =>
  ({
    open: `stands until ${dayName(q.standsUntil, today.value)}`,
    accepted: q.orderId ? 'became an order' : 'accepted',
    declined: 'not wanted',
    withdrawn: 'withdrawn',
    lapsed: `lapsed ${dayName(q.standsUntil, today.value)}`,
  })[q.state]
</script>

<template>
  <PageHead name="Quotes">
    <template #acts>
      <RouterLink to="/orders">Orders</RouterLink>
      <button v-if="runs" class="act" type="button" @click="open('new-order', undefined, { as: 'quote' })">
        New quote
      </button>
    </template>
  </PageHead>
  <WaitingRows v-if="!quotes" />
  <EmptyNote v-else-if="quotes.length === 0"
    >What you offer to somebody stands here: its price, its day and how long it holds. Accepted, it becomes an order at
    that price.</EmptyNote
  >
  <section v-for="g in groups" :key="g.name" :aria-label="g.name">
    <GroupHead :name="g.name" :count="String(g.rows.length)" />
    <ul>
      <li v-for="q in g.rows" :key="q.id">
        <ThingRow :id="q.id" kind="quote" class="row">
          <span class="quiet">{{ q.number }}</span>
          <span class="who"
            ><b class="name">{{ q.customer.name }}</b
            ><span class="quiet">{{ q.lines.map((l) => `${l.quantity} × ${l.productName}`).join(' · ') }}</span></span
          >
          <b>{{ money(q.gross) }}</b>
          <span class="state">{{ stands(q) }}</span>
        </ThingRow>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.row {
  grid-template-columns: 48px minmax(0, 1fr) auto minmax(140px, 0.4fr);
  gap: 4px 16px;
  min-height: 56px;
  padding: 6px 0;
}
.who {
  display: grid;
  line-height: 1.3;
}
.state {
  text-align: right;
}
@media (max-width: 640px) {
  .row {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .row > :first-child {
    display: none;
  }
  .state {
    grid-column: 1 / -1;
    text-align: left;
  }
}
</style>
