<script setup lang="ts">
import { computed, reactive } from 'vue'
import { useAnswer } from '../api/answers'
import { thisMinute } from '../shared/clock'
import DateField from '../shared/DateField.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import FieldPair from '../shared/FieldPair.vue'
import GroupHead from '../shared/GroupHead.vue'
import { written } from '../shared/habit'
import { money } from '../shared/money'
import PageHead from '../shared/PageHead.vue'
import { dateOf, dayName } from '../shared/time'
import { useTray } from '../shared/tray'
import { paperAddress, paperNames } from './kinds'

// What was invoiced, credited and received in a period, for whoever does the books.
const { open } = useTray()
const today = computed(() => dateOf(thisMinute.value))
// Until days are chosen they are the server's: this year's so far.
const chosen = reactive<{ from?: string; to?: string }>({})
const from = computed({ get: () => chosen.from ?? list.value?.from ?? '', set: (day) => (chosen.from = day) })
const to = computed({ get: () => chosen.to ?? list.value?.to ?? '', set: (day) => (chosen.to = day) })
const ordered = computed(() => !chosen.from || !chosen.to || chosen.from <= chosen.to)
const { data: list, error } = useAnswer(
  '/api/issued-papers',
  () => ({ query: { from: chosen.from || undefined, to: chosen.to || undefined } }),
  {
    enabled: () => ordered.value,
  },
)
const table = (which: string) => `/api/figures/${which}.csv?from=${from.value}&to=${to.value}`
</script>

<template>
  <PageHead name="Papers">
    <template #acts>
      <RouterLink to="/orders/labels">Labels</RouterLink>
      <RouterLink to="/workshop/terms">Terms</RouterLink>
      <RouterLink to="/orders">Orders</RouterLink>
    </template>
  </PageHead>
  <FieldPair columns="repeat(auto-fit, minmax(150px, 220px))">
    <DateField v-model="from" label="From" />
    <DateField v-model="to" label="To" :fault="ordered ? '' : 'ends before it begins'" />
  </FieldPair>
  <EmptyNote v-if="error">{{ error.message }}</EmptyNote>
  <template v-else-if="list">
    <dl>
      <template v-for="f in list.figures" :key="f.taxPercent">
        <dt>
          Invoiced<template v-if="Number(f.taxPercent)">
            with {{ written(String(Number(f.taxPercent))) }} % tax</template
          >, less what was credited
        </dt>
        <dd>
          <b>{{ money(f.gross) }}</b><span v-if="Number(f.tax)" class="quiet">
            {{ money(f.net) }} and {{ money(f.tax) }} tax</span
          >
        </dd>
      </template>
      <dt>Money that came, less what went back</dt>
      <dd>
        <b>{{ money(list.came) }}</b>
      </dd>
    </dl>
    <p class="acts">
      <a :href="table('issued-papers')" download>Invoices as a table (CSV)</a>
      <a :href="table('payments')" download>Payments as a table (CSV)</a>
    </p>
    <EmptyNote v-if="list.rows.length === 0"
      >No invoice or receipt was issued from one of these days to the other. They are issued from an order.</EmptyNote
    >
    <section v-else aria-label="Issued">
      <GroupHead name="Issued" :count="String(list.rows.length)" />
      <ul>
        <li v-for="p in list.rows" :key="p.id">
          <a :href="paperAddress(p.id)" target="_blank">{{ paperNames[p.kind] }} {{ p.number }}</a>
          <button class="word" type="button" @click="open('order', p.orderId)">
            {{ p.customer.name }}, order {{ p.orderNumber }}
          </button>
          <span class="quiet">{{ dayName(p.issuedOn, today) }}</span>
          <b>{{ p.kind === 'credit_note' ? '−' : '' }}{{ money(p.gross) }}</b>
        </li>
      </ul>
    </section>
  </template>
</template>

<style scoped>
dl {
  margin: 14px 0 0;
  display: grid;
  grid-template-columns: minmax(0, auto) auto;
  justify-content: start;
  gap: 6px 24px;
}
dt {
  color: var(--soft);
}
dd {
  text-align: right;
}
dd .quiet {
  display: block;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 18px;
  padding: 10px 0;
}
li {
  display: grid;
  grid-template-columns: 130px minmax(0, 1fr) auto 110px;
  gap: 2px 16px;
  align-items: baseline;
  padding: 7px 0;
  border-bottom: 1px solid var(--line);
}
li .word {
  justify-self: start;
  text-align: left;
}
li b {
  text-align: right;
}
@media (max-width: 640px) {
  li {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  li b {
    grid-row: 1;
    grid-column: 2;
  }
  li .quiet {
    text-align: right;
  }
}
</style>
