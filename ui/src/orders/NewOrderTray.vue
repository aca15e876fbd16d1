<script setup lang="ts">
import TroubleNote from '../shared/TroubleNote.vue'
import OfferField from '../shared/OfferField.vue'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useAnswer, useAsked } from '../api/answers'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import { now } from '../shared/clock'
import { addDays, dateOf, dayName } from '../shared/time'
import { say } from '../shared/toast'
import { useTray } from '../shared/tray'
import PromiseCard from '../planning/PromiseCard.vue'
import FieldPair from '../shared/FieldPair.vue'
import DueFields from './DueFields.vue'
import { namesFault, typedNames, takenIn } from './names'
import FilesButton from '../shared/FilesButton.vue'
import FootedForm from '../shared/FootedForm.vue'
import PickField from '../shared/PickField.vue'
import TextField from '../shared/TextField.vue'
import TickBox from '../shared/TickBox.vue'
import DateField from '../shared/DateField.vue'

interface Line {
  productId: number
  quantity: number
  text: string
}

const { open } = useTray()
const { act, busy, trouble, fault } = useAct()
const { data: products } = useAnswer('/api/products')
const { data: outlets } = useAnswer('/api/outlets')
// 0 is the main one.
const outletId = ref(0)

const route = useRoute()
// Whom it is for comes along where it was begun at a customer.
const customer = ref(String(route.query.for ?? ''))
// A week from now by the server's clock, which may be heard of a moment later, until a day is chosen.
const chosenDue = ref<string | null>(null)
const inAWeek = computed(() => addDays(dateOf(now.value), 7))
const dueOn = computed({ get: () => chosenDue.value ?? inAWeek.value, set: (day) => (chosenDue.value = day) })
const onTheWay = ref(0)
const note = ref('')
// Only offered, it stands for a while, and is an order once it is accepted.
const offered = ref(route.query.as === 'quote')
const standsUntil = ref('')
// What was thought about on the plan comes along in the address.
const [product, pieces, day] = String(route.query.ask ?? '').split(',')
const lines = ref<Line[]>([{ productId: Number(product) || 0, quantity: Number(pieces) || 1, text: '' }])
if (day) chosenDue.value = day
watch(
  products,
  (all) => {
    for (const l of lines.value) if (!l.productId) l.productId = all?.[0]?.id ?? 0
  },
  { immediate: true },
)

const productOf = (l: Line) => products.value?.find((p) => p.id === l.productId)
const letteringOf = (l: Line) => typedNames(l.text)
const add = () => lines.value.push({ productId: products.value?.[0]?.id ?? 0, quantity: 1, text: '' })

const most = 500
// As names are typed, the number of pieces follows them.
function typed(l: Line) {
  const names = letteringOf(l).length
  if (names > l.quantity) l.quantity = Math.min(most, names)
}
// A table's names stand in the field then, to be looked over.
async function fromTable(l: Line, file: File) {
  const { names, said } = await takenIn(file, most)
  say({ text: said, bad: !names.length })
  if (!names.length) return
  l.text = names.join('\n')
  l.quantity = names.length
}

const ask = computed(() => ({
  outletId: outletId.value,
  dueOn: dueOn.value || undefined,
  lines: lines.value.map((l) => ({
    productId: l.productId,
    quantity: Number(l.quantity),
    ...(productOf(l)?.lettered ? { lettering: letteringOf(l).slice(0, Number(l.quantity) || 0) } : {}),
  })),
}))
const whole = (a: typeof ask.value) =>
  a.lines.every((l) => l.productId > 0 && Number.isInteger(l.quantity) && l.quantity >= 1 && l.quantity <= 500)
const askable = computed(() => whole(ask.value))

// The answer comes while typing: the question waits until fingers pause.
const settled = shallowRef(ask.value)
let pause: ReturnType<typeof setTimeout> | undefined
watch(ask, (next) => {
  clearTimeout(pause)
  pause = setTimeout(() => (settled.value = next), 250)
})
const {
  data: promise,
  error: refused,
  isFetching,
} = useAsked('/api/promise', settled, { enabled: () => whole(settled.value), keep: true })

const { data: customers } = useAnswer('/api/customer-names', () => ({ query: { text: customer.value.trim() } }), {
  enabled: () => customer.value.trim().length > 0 && customer.value.length <= 120,
  keep: true,
})

async function offer() {
  const body = {
    customer: customer.value,
    outletId: outletId.value,
    dueOn: dueOn.value,
    daysOnTheWay: onTheWay.value,
    standsUntil: standsUntil.value || undefined,
    note: note.value,
    lines: ask.value.lines,
  }
  const made = await act(() => answerOf(api.POST('/api/quotes', { body })))
  if (!made) return
  say({ text: `Quote ${made.number} made.` })
  await open('quote', made.id)
}
async function take() {
  if (offered.value) return offer()
  // Made up once: sent again after a lost answer it must be the same.
  const body = {
    customer: customer.value,
    outletId: outletId.value,
    dueOn: dueOn.value,
    daysOnTheWay: onTheWay.value,
    note: note.value,
    // What the card says it breaks is agreed to by the button that names it.
    agreed: broken.value.map(({ orderId, toOn, toLate }) => ({ orderId, toOn: toOn || undefined, toLate })),
    lines: lines.value.map((l) => ({
      productId: l.productId,
      quantity: Number(l.quantity),
      ...(productOf(l)?.lettered ? { lettering: letteringOf(l) } : {}),
    })),
  }
  const made = await act(() => answerOf(api.POST('/api/orders', { body })))
  if (!made) return
  say({ text: `Order ${made.number} taken.` })
  await open('order', made.id)
}
const broken = computed(() => promise.value?.moves.filter((m) => m.breaks) ?? [])
const actName = computed(() => {
  if (offered.value) return 'Make the quote'
  const name = dueOn.value ? `Promise ${dayName(dueOn.value, dateOf(now.value))}` : 'Take the order'
  if (!broken.value.length) return name
  return `${name}, and break ${broken.value.length === 1 ? 'one promise' : `${broken.value.length} promises`}`
})
</script>

<template>
  <p v-if="products && products.length === 0" class="note">
    Nothing is made here yet. <RouterLink to="/products/new">Make the first product</RouterLink>, then take its order.
  </p>
  <FootedForm v-else @send="take">
    <OfferField
      v-model="customer"
      label="Customer"
      :fault="fault('customer')"
      :offers="customers ?? []"
      maxlength="120"
      autocomplete="off"
    />
    <fieldset v-for="(line, i) in lines" :key="i" class="line">
      <legend class="spoken">What is wanted{{ lines.length > 1 ? `, ${i + 1}` : '' }}</legend>
      <FieldPair columns="90px 1fr">
        <TextField v-model="line.quantity" label="Pieces" :fault="fault(`lines[${i}].quantity`)" numeric />
        <PickField
          v-model="line.productId"
          label="Product"
          :fault="fault(`lines[${i}].productId`)"
          :choices="products?.map((p) => ({ value: p.id, name: p.name }))"
        />
      </FieldPair>
      <TextField
        v-if="productOf(line)?.lettered"
        v-model="line.text"
        :label="`Lettering, one a line · ${letteringOf(line).length} of ${line.quantity}`"
        :rows="5"
        :fault="namesFault(trouble?.fields, i)"
        @update:model-value="typed(line)"
      />
      <FilesButton
        v-if="productOf(line)?.lettered"
        label="Names from a table"
        accept=".csv,.txt,.tsv,text/csv,text/plain"
        quiet
        @file="fromTable(line, $event)"
      />
      <button v-if="lines.length > 1" class="word" type="button" @click="lines.splice(i, 1)">Leave this out</button>
    </fieldset>
    <button v-if="lines.length < 20" class="word" type="button" @click="add">Another product</button>
    <DueFields v-model:due-on="dueOn" v-model:days-on-the-way="onTheWay" :fault="fault" />
    <PickField
      v-model="outletId"
      label="At the prices of"
      :fault="fault('outletId')"
      :choices="[
        ...(!outlets ? [{ value: 0, name: 'the main way of selling' }] : []),
        ...(outlets ?? []).map((o) => ({ value: o.main ? 0 : o.id, name: o.name })),
      ]"
    />
    <PromiseCard
      v-if="promise && askable"
      :promise="promise"
      :days-on-the-way="onTheWay"
      :asking="isFetching || settled !== ask"
      @day="dueOn = $event"
      @quantity="(line, n) => (lines[line]!.quantity = n)"
    />
    <p v-else-if="refused" class="note brick">{{ refused.message }}</p>
    <p v-else-if="!askable" class="note">From 1 to 500 pieces of each.</p>
    <TextField v-model="note" label="Note" :rows="2" :fault="fault('note')" maxlength="2000" />
    <TickBox v-model="offered">Only offered: a quote that becomes an order once it is accepted</TickBox>
    <DateField
      v-if="offered"
      v-model="standsUntil"
      label="Stands until"
      hint="left empty: as long as your terms say"
      :fault="fault('standsUntil')"
    />
    <template #foot>
      <TroubleNote :trouble="trouble" whole />
      <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : actName }}</button>
    </template>
  </FootedForm>
</template>

<style scoped>
.line {
  display: grid;
  gap: 8px;
  margin: 0;
  padding: 0;
  border: 0;
}
.word {
  align-self: start;
  justify-self: start;
}
.line + .line {
  padding-top: 10px;
  border-top: 1px solid var(--line);
}
</style>
