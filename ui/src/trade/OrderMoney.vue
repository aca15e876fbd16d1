<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import GroupHead from '../shared/GroupHead.vue'
import { written } from '../shared/habit'
import { money } from '../shared/money'
import { runs } from '../shared/settings'
import { dateOf, dayName } from '../shared/time'
import { say } from '../shared/toast'
import PaymentReceipt from '../papers/PaymentReceipt.vue'
import { wayNames } from './ways'

// What an order asks and what came of it.
const PaymentForm = defineAsyncComponent(() => import('./PaymentForm.vue'))
const ReturnForm = defineAsyncComponent(() => import('./ReturnForm.vue'))
const OrderReturns = defineAsyncComponent(() => import('./OrderReturns.vue'))
const props = defineProps<{ id: number }>()
const { tell, busy } = useAct()
const { data: account } = useAnswer('/api/orders/{id}/money', () => ({ path: { id: props.id } }))
const noting = ref<Schemas['Payment']['kind'] | 'return' | null>(null)
const returned = computed(() =>
  (account.value?.returns ?? [])
    .filter((r) => !r.takenBackAt)
    .flatMap((r) => r.pieces.filter((p) => p.goes !== 'stays').map((p) => p.wantId)),
)
const open = computed(() => Number(account.value?.open ?? 0))
const deposit = computed(() => Number(account.value?.deposit ?? 0) - Number(account.value?.paid ?? 0))
const taxed = computed(() => Number(account.value?.taxPercent ?? 0) > 0)
// What is asked for next, to begin the form with.
const next = computed(() => {
  const a = account.value
  if (!a) return ''
  if (noting.value === 'refund') return open.value < 0 ? String(-open.value) : ''
  return a.state === 'open' && deposit.value > 0 ? deposit.value.toFixed(2) : a.open
})
async function strike(p: Schemas['Payment']) {
  const done = await tell(() => answerOf(api.POST('/api/payments/{id}/take-back', { params: { path: { id: p.id } } })))
  if (done) say({ text: `${money(p.amount)} struck out.` })
}
</script>

<template>
  <section v-if="account" aria-label="Money">
    <GroupHead name="Money" />
    <dl>
      <dt>{{ account.state === 'cancelled' ? 'Would have cost' : 'To be paid' }}</dt>
      <dd>
        {{ money(account.gross)
        }}<span v-if="taxed" class="quiet">
          {{ account.taxInPrice ? 'holds' : 'with' }} {{ money(account.tax) }} tax ({{
            written(String(Number(account.taxPercent)))
          }}
          %)</span
        >
      </dd>
      <template v-if="account.state === 'open' && Number(account.deposit) > 0">
        <dt>Asked ahead</dt>
        <dd>
          {{ money(account.deposit) }}
          <span class="quiet">{{ deposit > 0 ? 'not all of it has come' : 'has come' }}</span>
        </dd>
      </template>
      <template v-if="account.settled && Number(account.paid) !== 0">
        <dt>Kept</dt>
        <dd>
          {{ money(account.settled.kept) }}
          <span class="quiet">{{ money(account.settled.spent) }} was spent on pieces that serve nobody else</span>
        </dd>
      </template>
      <template v-if="Number(account.letOff) !== 0">
        <dt>Let off</dt>
        <dd>{{ money(account.letOff) }}</dd>
      </template>
      <template v-if="Number(account.paid) !== 0">
        <dt>Paid</dt>
        <dd>{{ money(account.paid) }}</dd>
      </template>
      <template v-if="Number(account.paid) !== 0 && open !== 0 && (account.state !== 'cancelled' || open < 0)">
        <dt>{{ open > 0 ? 'Open' : 'To go back' }}</dt>
        <dd>
          <b>{{ money(Math.abs(open)) }}</b>
        </dd>
      </template>
    </dl>
    <ul>
      <li v-for="p in account.payments" :key="p.id" :class="{ struck: p.takenBackAt }">
        <span
          ><span class="sum">{{ p.kind === 'refund' ? '−' : '' }}{{ money(p.amount) }}</span>
          {{ p.kind === 'refund' ? 'given back, ' : '' }}{{ wayNames[p.way] }},
          {{ dayName(p.paidOn, dateOf(thisMinute)) }}<template v-if="p.note"> · {{ p.note }}</template></span
        >
        <span v-if="p.takenBackAt" class="quiet">struck out</span>
        <PaymentReceipt v-else-if="runs && p.kind === 'payment'" :id="id" :payment="p.id" />
        <button
          v-if="!p.takenBackAt && runs"
          class="word"
          type="button"
          :disabled="busy"
          :aria-label="`Strike out ${money(p.amount)}`"
          @click="strike(p)"
        >
          Strike out
        </button>
      </li>
    </ul>
    <OrderReturns v-if="account.returns.length" :returns="account.returns" />
    <template v-if="runs">
      <ReturnForm v-if="noting === 'return'" :id="id" :returned="returned" @done="noting = null" />
      <PaymentForm v-else-if="noting" :id="id" :key="noting" :kind="noting" :amount="next" @done="noting = null" />
      <p v-else class="acts">
        <button v-if="open > 0 && account.state !== 'cancelled'" class="side" type="button" @click="noting = 'payment'">
          Note a payment
        </button>
        <button v-if="Number(account.paid) > 0" class="word" type="button" @click="noting = 'refund'">
          Money given back
        </button>
        <button v-if="account.state === 'handed_over'" class="word" type="button" @click="noting = 'return'">
          Something came back
        </button>
      </p>
    </template>
  </section>
</template>

<style scoped>
dl {
  margin: 0;
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 4px 14px;
  padding: 6px 0;
}
dt {
  color: var(--soft);
}
dd {
  text-align: right;
  overflow-wrap: anywhere;
}
dd .quiet {
  display: block;
}
li {
  display: flex;
  gap: 12px;
  align-items: baseline;
  justify-content: space-between;
  padding: 4px 0;
  border-top: 1px solid var(--line);
  overflow-wrap: anywhere;
}
.struck .sum {
  text-decoration: line-through;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  padding-top: 8px;
}
</style>
