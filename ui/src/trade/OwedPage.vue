<script setup lang="ts">
import { computed } from 'vue'
import { useAnswer } from '../api/answers'
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import EmptyNote from '../shared/EmptyNote.vue'
import GroupHead from '../shared/GroupHead.vue'
import { money } from '../shared/money'
import PageHead from '../shared/PageHead.vue'
import ThingRow from '../shared/ThingRow.vue'
import { dateOf, dayName } from '../shared/time'
import WaitingRows from '../shared/WaitingRows.vue'

// Of whom money is to come, and to whom it goes back. Nothing of it is sent to anybody.
const { data: owed } = useAnswer('/api/owed')
const names: Record<Schemas['Owed']['why'], string> = {
  unpaid: 'Handed over and not paid',
  deposit: 'Asked ahead',
  back: 'To go back',
}
const since: Record<Schemas['Owed']['why'], string> = { unpaid: 'handed over', deposit: 'taken', back: 'since' }
const groups = computed(() =>
  (['unpaid', 'deposit', 'back'] as const)
    .map((why) => ({ why, rows: (owed.value ?? []).filter((o) => o.why === why) }))
    .filter((g) => g.rows.length > 0),
)
const sum = (rows: Schemas['Owed'][]) => money(rows.reduce((all, r) => all + Number(r.amount), 0))
</script>

<template>
  <PageHead name="Money to come">
    <template #acts>
      <RouterLink to="/workshop/terms">Terms</RouterLink>
      <RouterLink to="/orders">Orders</RouterLink>
    </template>
  </PageHead>
  <WaitingRows v-if="!owed" />
  <EmptyNote v-else-if="owed.length === 0"
    >Nothing is owed. What was asked ahead and has not come stands here, and what was handed over and not
    paid.</EmptyNote
  >
  <section v-for="g in groups" :key="g.why" :aria-label="names[g.why]">
    <GroupHead :name="names[g.why]" :count="sum(g.rows)" />
    <ul>
      <li v-for="o in g.rows" :key="o.orderId">
        <ThingRow :id="o.orderId" kind="order" class="row">
          <span class="who"
            ><b class="name">{{ o.customer.name }}</b
            ><span class="quiet"
              >order {{ o.number }}, {{ since[g.why] }} {{ dayName(o.since, dateOf(thisMinute)) }}</span
            ></span
          >
          <b class="sum">{{ money(o.amount) }}</b>
        </ThingRow>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.row {
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 4px 16px;
  min-height: 56px;
  padding: 6px 0;
}
.who {
  display: grid;
  line-height: 1.3;
}
</style>
