<script setup lang="ts">
import EmptyNote from '../shared/EmptyNote.vue'
import { computed, defineAsyncComponent, ref } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import AskDialog from '../shared/AskDialog.vue'
import PieceStrip from '../shared/PieceStrip.vue'
import ShortRests from '../shared/ShortRests.vue'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import { money } from '../shared/money'
import { addDays, dateOf, dayName, moment } from '../shared/time'
import { say } from '../shared/toast'
import { useTray } from '../shared/tray'
import { pressing, standing } from './readiness'
import FoldBox from '../shared/FoldBox.vue'
import ActRow from '../shared/ActRow.vue'
import OrderMoney from '../trade/OrderMoney.vue'
import OrderPapers from '../papers/OrderPapers.vue'
import ThingTrail from '../trail/ThingTrail.vue'

// Few orders have pictures of their customers', and few are changed: the parts for that
// come when they are needed.
const CustomerPictures = defineAsyncComponent(() => import('./CustomerPictures.vue'))
const ChangeOrder = defineAsyncComponent(() => import('./ChangeOrder.vue'))
const CancelOrder = defineAsyncComponent(() => import('../trade/CancelOrder.vue'))
const OrderMessages = defineAsyncComponent(() => import('../messages/OrderMessages.vue'))

const props = defineProps<{ id: number }>()
const { open } = useTray()
const { act, tell, busy, trouble, fault } = useAct()

const { data: order, error } = useAnswer('/api/orders/{id}', () => ({ path: { id: props.id } }))

const changing = ref(false)
const cancelling = ref(false)
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
async function save(body: Omit<Schemas['OrderChange'], 'agreed'>) {
  await change(body)
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
    <ChangeOrder
      v-if="changing"
      :order="order"
      :busy="busy"
      :trouble="trouble"
      :fault="fault"
      @change="save"
      @cancel="cancelling = true"
    />

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
