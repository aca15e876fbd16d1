<script setup lang="ts">
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { namesFault, typedNames } from '../orders/names'
import ActRow from '../shared/ActRow.vue'
import AskDialog from '../shared/AskDialog.vue'
import { thisMinute } from '../shared/clock'
import DateField from '../shared/DateField.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import FoldBox from '../shared/FoldBox.vue'
import GroupHead from '../shared/GroupHead.vue'
import SecretAddress from '../shared/SecretAddress.vue'
import { runs } from '../shared/settings'
import TextField from '../shared/TextField.vue'
import { dateOf, dayName, moment } from '../shared/time'
import { say } from '../shared/toast'
import { useTray } from '../shared/tray'
import TroubleNote from '../shared/TroubleNote.vue'
import ThingTrail from '../trail/ThingTrail.vue'
import QuoteLines from './QuoteLines.vue'

const QuoteMessages = defineAsyncComponent(() => import('../messages/QuoteMessages.vue'))
// A quote: what is offered, until when, and what they said. Accepted, it becomes an order at its price.
const props = defineProps<{ id: number }>()
const { open } = useTray()
const { act, tell, busy, trouble, fault } = useAct()
const at = computed(() => ({ path: { id: props.id } }))
const { data: quote, error } = useAnswer('/api/quotes/{id}', () => at.value)
const { data: address } = useAnswer('/api/quotes/{id}/address', () => at.value, { enabled: () => runs.value })
const today = computed(() => dateOf(thisMinute.value))
const stands = computed(
  () => quote.value?.state === 'open' || (quote.value?.state === 'accepted' && !quote.value.orderId),
)
const names = ref<string[]>([])
const dueOn = ref('')
watch(
  quote,
  (q, before) => {
    if (!q || before?.version === q.version) return
    names.value = q.lines.map((l) => l.lettering.join('\n'))
    dueOn.value = q.dueOn
  },
  { immediate: true },
)
const states: Record<Schemas['Quote']['state'], string> = {
  open: '',
  accepted: 'Accepted.',
  declined: 'Not wanted.',
  withdrawn: 'Withdrawn.',
  lapsed: 'It has lapsed.',
}

// Which promises the order would break is named first, and it is taken only when that is agreed to.
const moving = ref<{ names: string[]; agree: () => Promise<void> } | null>(null)
async function accept(agreed: Schemas['AgreedMove'][] = []) {
  moving.value = null
  const body = { lettering: names.value.map(typedNames), dueOn: dueOn.value || undefined, agreed }
  const made = await act(() => answerOf(api.POST('/api/quotes/{id}/accept', { params: at.value, body })))
  if (trouble.value?.type === '/problems/breaks-promises') {
    const moves = trouble.value.values as Schemas['AgreedMove'][]
    moving.value = { names: Object.values(trouble.value.fields), agree: () => accept([...agreed, ...moves]) }
  }
  if (!made) return
  say({ text: `Order ${made.number} taken, at the quoted price.` })
  await open('order', made.id)
}
function again() {
  const { customer, lines } = quote.value!
  const first = lines[0]!
  return open('new-order', undefined, { as: 'quote', for: customer.name, ask: `${first.productId},${first.quantity}` })
}
const end = (path: '/api/quotes/{id}/decline' | '/api/quotes/{id}/withdraw') =>
  tell(() => answerOf(api.POST(path, { params: at.value, body: { version: quote.value!.version } })))
const renew = () => tell(() => answerOf(api.POST('/api/quotes/{id}/address', { params: at.value })))
</script>

<template>
  <EmptyNote v-if="error">{{ error.message }}</EmptyNote>
  <div v-else-if="quote" class="quote">
    <h1>{{ quote.customer.name }}</h1>
    <p class="quiet">
      quote {{ quote.number }}, made {{ moment(quote.madeAt, thisMinute) }} ·
      <button class="word" type="button" @click="open('customer', quote.customer.id)">about the customer</button>
    </p>
    <p>
      Ready <b>{{ dayName(quote.dueOn, today) }}</b><template v-if="quote.state === 'open'">
        · stands until {{ dayName(quote.standsUntil, today) }}</template
      >
    </p>
    <p v-if="states[quote.state]" class="note glaze">
      {{ states[quote.state] }}
      <button v-if="quote.orderId" class="word" type="button" @click="open('order', quote.orderId)">The order</button>
      <template v-else-if="quote.state === 'accepted'"> The order is still to be taken.</template>
      <button v-else-if="runs" class="word" type="button" @click="again">Another quote like it</button>
    </p>
    <p v-if="quote.note" class="lines">{{ quote.note }}</p>
    <QuoteLines :quote="quote" />
    <form v-if="stands && runs" class="taking" novalidate @submit.prevent="accept()">
      <template v-for="(l, i) in quote.lines" :key="l.id">
        <TextField
          v-if="l.lettered"
          v-model="names[i]"
          :label="`Lettering of ${l.productName}, one a line · ${typedNames(names[i] ?? '').length} of ${l.quantity}`"
          :rows="4"
          :fault="namesFault(trouble?.fields, i)"
        />
      </template>
      <DateField v-model="dueOn" label="Due on" :fault="fault('dueOn')" />
      <TroubleNote v-if="!moving" :trouble="trouble" />
      <ActRow>
        <button class="act" type="submit" :disabled="busy">They accept: take the order</button>
        <button v-if="quote.state === 'open'" class="side" type="button" @click="end('/api/quotes/{id}/decline')">
          Not wanted
        </button>
        <button class="word" type="button" @click="end('/api/quotes/{id}/withdraw')">Withdraw it</button>
      </ActRow>
    </form>
    <GroupHead name="To give it" />
    <FoldBox v-if="quote.state === 'open'" name="Words ready"><QuoteMessages :id="id" /></FoldBox>
    <p><a :href="`/api/quotes/${id}/pdf`" target="_blank">The quote on paper (PDF)</a></p>
    <SecretAddress
      v-if="runs && address"
      :path="address.path"
      :busy="busy"
      what="A page for them, under a secret address"
      @renew="renew"
    />
    <ThingTrail :id="id" about="quotes" />
  </div>
  <AskDialog
    v-if="moving"
    title="This breaks promises"
    why="It would break what is promised to others:"
    @wait="moving = null"
  >
    <span v-for="n in moving.names" :key="n" class="line">{{ n }}</span>
    <template #acts>
      <button class="side" type="button" @click="moving.agree()">Do it all the same</button>
      <button class="act" type="button" @click="moving = null">Leave it as it is</button>
    </template>
  </AskDialog>
</template>

<style scoped>
.quote,
.taking {
  display: grid;
  gap: 10px;
}
.taking {
  padding: 12px;
  border: 1px solid var(--line);
  background: var(--paper);
}
.lines {
  white-space: pre-line;
  overflow-wrap: anywhere;
}
.line {
  display: block;
}
</style>
