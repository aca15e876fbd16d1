<script setup lang="ts">
import EmptyNote from '../shared/EmptyNote.vue'
import ChangedCost from './ChangedCost.vue'
import DueFields from './DueFields.vue'
import { written } from '../shared/habit'
import { countIn, plainDecimal } from '../shared/reading'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import AskDialog from '../shared/AskDialog.vue'
import ClashNote from '../shared/ClashNote.vue'
import PieceStrip from '../shared/PieceStrip.vue'
import ShortRests from '../shared/ShortRests.vue'
import SaveTrouble from '../shared/SaveTrouble.vue'
import TextField from '../shared/TextField.vue'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import { useDraft } from '../shared/draft'
import { amount, money, unit } from '../shared/money'
import { addDays, dateOf, dayName, moment } from '../shared/time'
import { say } from '../shared/toast'
import { useTray } from '../shared/tray'
import { takenIn } from './names'
import { pressing, standing } from './readiness'
import FieldPair from '../shared/FieldPair.vue'
import FoldBox from '../shared/FoldBox.vue'
import ActRow from '../shared/ActRow.vue'
import OrderMoney from '../trade/OrderMoney.vue'
import OrderPapers from '../papers/OrderPapers.vue'
import ThingTrail from '../trail/ThingTrail.vue'

// Few orders have pictures of their customers', and few names come from a table: the
// parts for them come when they are needed.
const CustomerPictures = defineAsyncComponent(() => import('./CustomerPictures.vue'))
const CancelOrder = defineAsyncComponent(() => import('../trade/CancelOrder.vue'))
const FilesButton = defineAsyncComponent(() => import('../shared/FilesButton.vue'))
const OrderMessages = defineAsyncComponent(() => import('../messages/OrderMessages.vue'))

const props = defineProps<{ id: number }>()
const { open } = useTray()
const { act, tell, busy, trouble, fault } = useAct()

const { data: order, error } = useAnswer('/api/orders/{id}', () => ({ path: { id: props.id } }))

const changing = ref(false)
const cancelling = ref(false)
const { form, version, clashes, keepMine, takeTheirs, fill } = useDraft(
  () => order.value,
  ({ customer, dueOn, daysOnTheWay, note, keepRests, lines }) => ({
    customer,
    dueOn,
    daysOnTheWay,
    note,
    keepRests,
    lines: lines.map(({ lineId, product, unitPrice, pieces }) => ({
      lineId,
      product,
      unitPrice: exactly(unitPrice),
      lettered: pieces.some((p) => p.lettering !== ''),
      wants: pieces.map(({ wantId, lettering }) => ({ wantId, lettering })),
    })),
  }),
)
// A price is two decimals unless it was set finer.
function exactly(price: string) {
  const short = amount(price)
  return Number(short) === Number(price) ? short : price
}
const begun = computed(
  () =>
    new Set(
      order.value?.lines.flatMap((l) => l.pieces.filter((p) => p.mark !== 'notStarted').map((p) => p.wantId)) ?? [],
    ),
)
type LineForm = NonNullable<typeof form.value>['lines'][number]
const names = {
  customer: 'Customer',
  dueOn: 'Due on',
  daysOnTheWay: 'Days on the way',
  note: 'Note',
  keepRests: 'Keeps its rests',
  lines: 'Its pieces',
}
const inWords = (field: string, value: unknown) =>
  field === 'lines'
    ? (value as LineForm[]).map((l) => `${l.wants.length} × ${l.product} at ${written(l.unitPrice)}`).join('; ')
    : String(value)
// Plain pieces are only counted: those that are not begun go first, and further ones come last.
const most = 500
function setQuantity(line: LineForm, text: string) {
  const wanted = countIn(text)
  if (!(wanted >= 1 && wanted <= most)) return
  while (line.wants.length < wanted) line.wants.push({ wantId: 0, lettering: '' })
  for (let i = line.wants.length - 1; i >= 0 && line.wants.length > wanted; i--) {
    if (!begun.value.has(line.wants[i]!.wantId)) line.wants.splice(i, 1)
  }
}
// A table's names go on the pieces that are not begun, in its order, and on further ones
// where they do not suffice; pieces left over keep theirs.
async function fromTable(line: LineForm, file: File) {
  const open = line.wants.filter((w) => !begun.value.has(w.wantId))
  const { names, said } = await takenIn(file, most - begunOf(line))
  say({ text: said, bad: !names.length })
  names.forEach((name, k) => {
    if (open[k]) open[k].lettering = name
    else line.wants.push({ wantId: 0, lettering: name })
  })
}
const begunOf = (line: LineForm) => line.wants.filter((w) => begun.value.has(w.wantId)).length
const nameFault = (i: number, k: number) =>
  fault(`lines[${i}].wants[${k}].lettering`) || fault(`lines[${i}].wants[${k}]`)
watch(changing, (on) => {
  if (on && order.value) fill(order.value)
})

const params = computed(() => ({ params: { path: { id: props.id } } }))
const words: Record<Schemas['OrderPiece']['mark'], string> = {
  notStarted: 'not started',
  inHand: 'in hand',
  resting: 'resting',
  ready: 'ready for hands',
  finished: 'finished',
  handedOver: 'handed over',
}

async function handOver() {
  const o = order.value!
  await tell(() => answerOf(api.POST('/api/orders/{id}/hand-over', { ...params.value, body: { version: o.version } })))
  if (trouble.value) return
  const undo = () =>
    tell(() =>
      answerOf(api.POST('/api/orders/{id}/take-back', { ...params.value, body: { version: order.value!.version } })),
    )
  say({ text: `Order ${o.number} handed over.`, action: 'Undo', act: undo })
}
// Which promises a change would break is named first, and done only when that is agreed to.
const moving = ref<{ names: string[]; agree: () => Promise<void> } | null>(null)
async function change(body: Omit<Schemas['OrderChange'], 'agreed'>, agreed: Schemas['AgreedMove'][] = []) {
  moving.value = null
  await act(() => answerOf(api.PUT('/api/orders/{id}', { ...params.value, body: { ...body, agreed } })))
  if (trouble.value?.type === '/problems/breaks-promises') {
    const moves = trouble.value.values as Schemas['AgreedMove'][]
    moving.value = { names: Object.values(trouble.value.fields), agree: () => change(body, [...agreed, ...moves]) }
  }
}
async function save() {
  const { lines, ...rest } = form.value!
  const changed = lines.map(({ lineId, unitPrice, wants }) => ({
    lineId,
    unitPrice: plainDecimal(unitPrice),
    wants: wants.map(({ wantId, lettering }) => ({ wantId, lettering })),
  }))
  await change({ ...rest, lines: changed, version: version.value })
  if (!trouble.value) changing.value = false
}
const keepRests = (keep: boolean) => {
  const { dueOn, note, version } = order.value!
  return change({ dueOn, note, keepRests: keep, version })
}
// The product that has most yet to be begun.
const toBegin = computed(() => {
  const open = (l: Schemas['OrderLine']) => l.pieces.filter((p) => p.mark === 'notStarted' && !p.lotId).length
  return [...(order.value?.lines ?? [])].sort((a, b) => open(b) - open(a))[0]?.productId
})
</script>

<template>
  <EmptyNote v-if="error">{{ error.message }}</EmptyNote>
  <div v-else-if="order" class="order">
    <h1>{{ order.customer }}</h1>
    <p class="quiet">
      order {{ order.number }}, taken {{ moment(order.takenAt, thisMinute) }} ·
      <button class="word" type="button" @click="open('customer', order.customerId)">about the customer</button>
    </p>
    <p v-if="order.state === 'open'">
      Due <b>{{ dayName(order.dueOn, dateOf(thisMinute)) }}</b><template v-if="order.daysOnTheWay"
        >, at the customer’s by {{ dayName(addDays(order.dueOn, order.daysOnTheWay), dateOf(thisMinute)) }}</template
      >
      ·
      <span :class="{ bad: pressing(order.readiness) }">{{ standing(order.readiness, thisMinute) }}</span>
    </p>
    <p v-else class="note glaze">{{ order.state === 'handed_over' ? 'Handed over.' : 'Cancelled.' }}</p>
    <p v-if="order.note && !changing">{{ order.note }}</p>
    <PieceStrip :marks="order.marks" />
    <ShortRests
      v-if="order.state === 'open'"
      :rests="order.shortRests"
      :keeps="order.keepRests"
      :busy="busy"
      @keep="keepRests"
    />

    <ActRow v-if="order.state === 'open'">
      <button v-if="order.readiness.state === 'ready'" class="act" type="button" :disabled="busy" @click="handOver">
        Hand over
      </button>
      <button
        v-else-if="order.readiness.unstarted > 0"
        class="act"
        type="button"
        @click="open('new-batch', toBegin, { for: String(order.id) })"
      >
        Make up a batch
      </button>
      <button class="side" type="button" :aria-expanded="changing" @click="changing = !changing">Change</button>
      <RouterLink :to="`/prints/proof/${order.id}`">Proof</RouterLink>
    </ActRow>
    <form v-if="changing && form" class="change" novalidate @submit.prevent="save">
      <TextField v-model="form.customer" label="Customer" :fault="fault('customer')" maxlength="120" />
      <DueFields v-model:due-on="form.dueOn" v-model:days-on-the-way="form.daysOnTheWay" :fault="fault" />
      <TextField v-model="form.note" label="Note" :rows="3" :fault="fault('note')" maxlength="2000" />
      <fieldset v-for="(line, i) in form.lines" :key="line.lineId">
        <legend>{{ line.product }}</legend>
        <FieldPair columns="1fr 1fr">
          <TextField
            :label="`Price each, ${unit()}`"
            :model-value="line.unitPrice"
            :fault="fault(`lines[${i}].unitPrice`)"
            maxlength="12"
            @update:model-value="line.unitPrice = String($event)"
          />
          <TextField
            v-if="!line.lettered"
            label="Pieces"
            numeric
            lazy
            :model-value="line.wants.length"
            :fault="fault(`lines[${i}].wants`)"
            :hint="begunOf(line) ? `${begunOf(line)} begun, and kept` : ''"
            @update:model-value="setQuantity(line, String($event))"
          />
        </FieldPair>
        <template v-if="line.lettered">
          <ul class="pieces">
            <li v-for="(want, k) in line.wants" :key="want.wantId || `new-${k}`">
              <TextField
                v-model="want.lettering"
                bare
                maxlength="120"
                :label="`Name on piece ${k + 1} of ${line.product}`"
                :disabled="begun.has(want.wantId)"
                :wrong="Boolean(nameFault(i, k))"
              />
              <span v-if="begun.has(want.wantId)" class="quiet">begun</span>
              <button
                v-else-if="line.wants.length > 1"
                class="word"
                type="button"
                :aria-label="`take out ${want.lettering || `piece ${k + 1}`}`"
                @click="line.wants.splice(k, 1)"
              >
                take out
              </button>
              <p v-if="nameFault(i, k)" class="bad" role="alert">{{ nameFault(i, k) }}</p>
            </li>
          </ul>
          <p v-if="fault(`lines[${i}].wants`)" class="bad" role="alert">
            {{ fault(`lines[${i}].wants`) }}
          </p>
          <button
            v-if="line.wants.length < most"
            class="word"
            type="button"
            @click="line.wants.push({ wantId: 0, lettering: '' })"
          >
            Another piece of {{ line.product }}
          </button>
          <FilesButton
            label="Names from a table"
            accept=".csv,.txt,.tsv,text/csv,text/plain"
            quiet
            @file="fromTable(line, $event)"
          />
        </template>
      </fieldset>
      <ChangedCost :order="order" :lines="form.lines" />
      <SaveTrouble :trouble="trouble" />
      <ClashNote :clashes="clashes" :names="names" :show="inWords" @mine="keepMine" @theirs="takeTheirs" />
      <ActRow>
        <button class="act" type="submit" :disabled="busy">Save</button>
        <button class="word" type="button" @click="cancelling = true">Cancel the order</button>
      </ActRow>
    </form>

    <section v-for="(line, i) in order.lines" :key="i">
      <h2>{{ line.quantity }} × {{ line.product }}</h2>
      <p class="quiet">
        at {{ money(line.unitPrice) }} each<template v-if="order.outlet">, {{ order.outlet }}</template>
      </p>
      <CustomerPictures v-if="line.ownPictures" :order="order" :line="line" :open="order.state === 'open'" />
      <ul v-if="line.pieces.some((p) => p.lettering)" class="names">
        <li v-for="(p, k) in line.pieces" :key="k">
          <span>{{ p.lettering }}</span>
          <button
            v-if="p.lotId && p.mark !== 'finished' && p.mark !== 'handedOver'"
            class="word"
            type="button"
            @click="open('lot', p.lotId)"
          >
            {{ words[p.mark] }}
          </button>
          <span v-else class="quiet">{{ words[p.mark] }}</span>
        </li>
      </ul>
    </section>
    <OrderMoney :id="id" />
    <OrderPapers :id="id" />
    <FoldBox name="Words ready"><OrderMessages :id="id" /></FoldBox>

    <h2>What happened</h2>
    <ol class="events">
      <li v-for="(e, i) in order.events" :key="i">
        <span class="quiet">{{ moment(e.at, thisMinute) }}</span> {{ e.text }}
      </li>
    </ol>
    <ThingTrail :id="order.id" about="orders" />
  </div>
  <AskDialog
    v-if="moving"
    title="This breaks promises"
    :why="`It would break what is promised to others:`"
    @wait="moving = null"
  >
    <span v-for="n in moving.names" :key="n" class="line">{{ n }}</span>
    <template #acts>
      <button class="side" type="button" @click="moving.agree()">Do it all the same</button>
      <button class="act" type="button" @click="moving = null">Leave it as it is</button>
    </template>
  </AskDialog>
  <CancelOrder v-if="cancelling" :id="id" :version="order!.version" @done="cancelling = false" />
</template>

<style scoped>
.order {
  display: grid;
  gap: 8px;
}
fieldset {
  display: grid;
  gap: 8px;
}
legend {
  font-size: inherit;
  font-weight: 650;
  color: var(--ink);
}
.pieces li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 10px;
  align-items: center;
  padding: 2px 0;
}
.pieces .bad {
  grid-column: 1 / -1;
}
fieldset > .word {
  justify-self: start;
}
.change {
  display: grid;
  gap: 10px;
  padding: 12px;
  border: 1px solid var(--line);
  background: var(--paper);
}
section,
.order h2 {
  margin-top: 8px;
}
.names li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  padding: 3px 0;
  border-bottom: 1px solid var(--line);
  overflow-wrap: anywhere;
}
.line {
  display: block;
}
.events {
  display: grid;
  gap: 5px;
}
.events .quiet {
  display: block;
}
</style>
