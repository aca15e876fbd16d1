<script setup lang="ts">
import WaitingRows from '../shared/WaitingRows.vue'
import { computed } from 'vue'
import { useAnswer } from '../api/answers'
import type { Schemas } from '../api/client'
import PieceStrip from '../shared/PieceStrip.vue'
import { thisMinute } from '../shared/clock'
import { addDays, dateOf, dayName } from '../shared/time'
import { useTray } from '../shared/tray'
import { pressing, standing } from './readiness'
import GroupHead from '../shared/GroupHead.vue'
import PageHead from '../shared/PageHead.vue'
import ThingRow from '../shared/ThingRow.vue'

const { data: rows } = useAnswer('/api/orders')
const { open } = useTray()

const today = computed(() => dateOf(thisMinute.value))
// The day after the Sunday of this week, in calendar days.
const nextMonday = computed(() => {
  const weekday = new Date(`${today.value}T12:00:00Z`).getUTCDay()
  return addDays(today.value, weekday === 0 ? 1 : 8 - weekday)
})

const groups = computed(() => {
  const all = rows.value ?? []
  const live = all.filter((r) => r.state === 'open')
  const within = (from: string, to: string) => live.filter((r) => r.dueOn >= from && r.dueOn < to)
  const nextWeek = nextMonday.value
  const after = addDays(nextWeek, 7)
  return [
    { name: 'Overdue', rows: within('', today.value) },
    { name: 'This week', rows: within(today.value, nextWeek) },
    { name: 'Next week', rows: within(nextWeek, after) },
    { name: 'Later', rows: within(after, '9999') },
    { name: 'Closed in the last days', rows: all.filter((r) => r.state !== 'open') },
  ].filter((g) => g.rows.length > 0)
})
const summary = (rows: Schemas['LedgerRow'][]) => {
  const pieces = rows.flatMap((r) => r.marks)
  const ready = pieces.filter((m) => m === 'finished').length
  return `${pieces.length} ${pieces.length === 1 ? 'piece' : 'pieces'}${ready ? `, ${ready} finished` : ''}`
}
const closedWord = (r: Schemas['LedgerRow']) => (r.state === 'handed_over' ? 'handed over' : 'cancelled')
</script>

<template>
  <PageHead name="Orders">
    <template #acts>
      <RouterLink to="/orders/quotes">Quotes</RouterLink>
      <RouterLink to="/orders/owed">Money to come</RouterLink>
      <RouterLink to="/orders/customers">Customers</RouterLink>
      <RouterLink to="/orders/papers">Papers</RouterLink>
      <button class="act" type="button" @click="open('new-order')">New order</button>
    </template>
  </PageHead>
  <section v-for="g in groups" :key="g.name" :aria-label="g.name">
    <GroupHead :name="g.name" :count="summary(g.rows)" />
    <ul>
      <li v-for="r in g.rows" :key="r.id">
        <ThingRow :id="r.id" kind="order" class="row">
          <span class="quiet">{{ r.number }}</span>
          <span class="who"
            ><b>{{ r.customer }}</b
            ><span class="quiet">{{ r.products.join(' · ') }}</span></span
          >
          <PieceStrip :marks="r.marks" />
          <span class="due">
            <b>{{ r.state === 'open' ? dayName(r.dueOn, today) : closedWord(r) }}</b>
            <span v-if="r.state === 'open'" :class="pressing(r.readiness) ? 'bad' : 'quiet'">{{
              standing(r.readiness, thisMinute)
            }}</span>
          </span>
        </ThingRow>
      </li>
    </ul>
  </section>
  <div v-if="rows && rows.length === 0" class="empty">
    <p>Orders stand here by the week they are due, each with where its pieces are.</p>
    <p>Take the first one: it shows at once what it costs and whether the date can be held.</p>
  </div>
  <WaitingRows v-if="!rows" />
</template>

<style scoped>
.row {
  grid-template-columns: 48px minmax(130px, 1fr) minmax(96px, 0.8fr) minmax(250px, 1.2fr);
  gap: 4px 12px;
  min-height: 56px;
  padding: 6px 0;
}
.who,
.due {
  display: grid;
  line-height: 1.3;
  overflow-wrap: anywhere;
}
.due {
  justify-items: end;
  text-align: right;
}
.due .bad {
  font-size: 14px;
}
@media (max-width: 640px) {
  .row {
    grid-template-columns: minmax(0, 1fr);
    padding: 10px 0;
  }
  .row > :first-child {
    display: none;
  }
  .due {
    display: flex;
    flex-wrap: wrap;
    gap: 0 8px;
    justify-content: flex-start;
    text-align: left;
  }
}
</style>
