<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import GroupHead from '../shared/GroupHead.vue'
import { money } from '../shared/money'
import { runs } from '../shared/settings'
import { dateOf, dayName } from '../shared/time'
import { say } from '../shared/toast'
import { paperAddress, paperNames } from './kinds'

// What was issued in writing for an order, and what can be.
const InvoiceForm = defineAsyncComponent(() => import('./InvoiceForm.vue'))
const CreditForm = defineAsyncComponent(() => import('./CreditForm.vue'))
const props = defineProps<{ id: number }>()
const { tell, busy } = useAct()
const { data: written } = useAnswer('/api/orders/{id}/papers', () => ({ path: { id: props.id } }))
const making = ref<'invoice' | 'credit' | null>(null)
const others = ['order_sheet', 'packing_slip', 'care_card'] as const
const toCredit = computed(() => Number(written.value?.toCredit ?? 0))
async function issue(kind: (typeof others)[number]) {
  const paper = await tell(() =>
    answerOf(api.POST('/api/orders/{id}/papers', { params: { path: { id: props.id } }, body: { kind } })),
  )
  if (!paper) return
  say({
    text: `${paperNames[kind]} ${paper.number} is issued.`,
    action: 'Open it',
    act: () => void window.open(paperAddress(paper.id), '_blank'),
  })
}
</script>

<template>
  <section v-if="written" aria-label="Papers">
    <GroupHead name="Papers" />
    <ul>
      <li v-for="p in written.papers" :key="p.id">
        <a :href="paperAddress(p.id)" target="_blank">{{ paperNames[p.kind] }} {{ p.number }}</a>
        <span class="quiet"
          ><template v-if="Number(p.gross)">{{ p.kind === 'credit_note' ? '−' : '' }}{{ money(p.gross) }}, </template
          >{{ dayName(p.issuedOn, dateOf(thisMinute)) }}</span
        >
      </li>
    </ul>
    <p v-if="written.changed" class="note">
      The order is not what its invoice says any more: credit it, and issue another.
    </p>
    <template v-if="runs">
      <InvoiceForm v-if="making === 'invoice'" :id="id" :to="written.to" @done="making = null" />
      <CreditForm
        v-else-if="making === 'credit' && written.standsId"
        :id="written.standsId"
        :left="written.left"
        :to-credit="written.toCredit"
        @done="making = null"
      />
      <p v-else class="acts">
        <button v-if="written.mayInvoice" class="side" type="button" @click="making = 'invoice'">Invoice</button>
        <button
          v-if="written.standsId"
          :class="toCredit > 0 || written.changed ? 'side' : 'word'"
          type="button"
          @click="making = 'credit'"
        >
          Credit the invoice
        </button>
        <button v-for="kind in others" :key="kind" class="word" type="button" :disabled="busy" @click="issue(kind)">
          {{ paperNames[kind] }}
        </button>
        <RouterLink :to="`/orders/labels?order=${id}`">Label</RouterLink>
      </p>
    </template>
  </section>
</template>

<style scoped>
li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  align-items: baseline;
  justify-content: space-between;
  padding: 4px 0;
  border-top: 1px solid var(--line);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  padding-top: 8px;
}
</style>
