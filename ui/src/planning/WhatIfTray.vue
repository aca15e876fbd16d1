<script setup lang="ts">
import { computed } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api } from '../api/client'
import ActRow from '../shared/ActRow.vue'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import CountField from '../shared/CountField.vue'
import DateField from '../shared/DateField.vue'
import FoldBox from '../shared/FoldBox.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import FieldPair from '../shared/FieldPair.vue'
import GroupHead from '../shared/GroupHead.vue'
import HourField from '../shared/HourField.vue'
import PickField from '../shared/PickField.vue'
import { minuteOf, minuteOfEnd, timeOf } from '../shared/minutes'
import { addDays, dateOf, moment, momentIn, timeOn } from '../shared/time'
import { say } from '../shared/toast'
import { useTray } from '../shared/tray'
import { work } from '../shared/words'
import TroubleNote from '../shared/TroubleNote.vue'
import { useWorkshop } from '../shared/useWorkshop'
import MoveList from './MoveList.vue'
import { useFrom } from './queries'
import { dropThought, suppositions, thinking, thought, useSupposed } from './whatIf'

// What if: what is supposed, and what comes of it for everybody's promise, before anything is changed.
const emit = defineEmits<{ close: [] }>()
const { people } = useWorkshop()
const { data: orders } = useAnswer('/api/orders')
const { data: products } = useAnswer('/api/products')
const from = useFrom()
const { data: supposed, error, asking } = useSupposed(() => from.value)
const { act, busy, trouble } = useAct()

const today = computed(() => dateOf(thisMinute.value))
const persons = computed(() => people.value.map((p) => ({ value: p.id, name: p.name })))
const helpers = computed(() => [{ value: 0, name: 'a helper' }, ...persons.value])
const openOrders = computed(() =>
  (orders.value ?? [])
    .filter((o) => o.state === 'open')
    .map((o) => ({ value: o.id, name: `${o.number} ${o.customer}` })),
)
const made = computed(() => (products.value ?? []).map((p) => ({ value: p.id, name: p.name })))

const offers = [
  {
    name: 'Somebody is away',
    add: () =>
      thought.value.away.push({ personId: persons.value[0]?.value ?? 0, firstDay: today.value, lastDay: today.value }),
  },
  {
    name: 'Somebody comes in',
    add: () =>
      thought.value.comes.push({ personId: 0, day: addDays(today.value, 1), fromMinute: 13 * 60, toMinute: 17 * 60 }),
  },
  { name: 'One more rack', add: () => (thought.value.places += 12) },
  {
    name: 'An order more',
    add: () =>
      (thought.value.order ??= {
        productId: made.value[0]?.value ?? 0,
        quantity: 12,
        dueOn: addDays(today.value, 7),
      }),
  },
  {
    name: 'An order less',
    add: () => {
      const free = openOrders.value.find((o) => !thought.value.without.includes(o.value))
      if (free) thought.value.without.push(free.value)
    },
  },
]

const faults = computed(() => (error.value as { fields?: Record<string, string> } | null)?.fields ?? {})
const faultAt = (path: string) => faults.value[path] ?? ''
const moves = computed(() => supposed.value?.moves ?? [])
const broken = computed(() => moves.value.filter((m) => m.breaks))
const mended = computed(() => moves.value.filter((m) => m.mends))
const inTime = computed(() => moves.value.filter((m) => !m.breaks && !m.mends))
const late = (n: number) => (n === 0 ? 'none late' : `${n} late`)
// Orders are taken and cancelled where they stand; all else that is supposed can be made so.
const ordersToo = computed(() => thought.value.order !== null || thought.value.without.length > 0)
const acceptable = computed(() => {
  const { away, comes, anyTime, holds, first, places } = thought.value
  return away.length + comes.length + anyTime.length + holds.length + first.length + places > 0
})
const { open } = useTray()
const takeOrder = () => {
  const { productId, quantity, dueOn } = thought.value.order!
  return open('new-order', undefined, { ask: `${productId},${quantity},${dueOn}` })
}
const numberOf = (id: number) => orders.value?.find((o) => o.id === id)?.number ?? ''
// The question is sent once fingers have paused; until the answer is there nothing is made so.
const sure = computed(() => !!supposed.value && !asking.value && !error.value)

const setTime = (i: number, day: string, time: string) =>
  (thought.value.holds[i]!.at = momentIn(day, time).toISOString())

async function accept() {
  const { order, without } = thought.value
  const body = { ...suppositions(thought.value), order: undefined, without: [] }
  await act(() => answerOf(api.POST('/api/plan/accept', { body })))
  if (trouble.value) return
  dropThought()
  say({ text: 'It is so now. Whose promise moved waits above to be told.' })
  // What is thought of orders goes on beside what is so now.
  if (order || without.length) Object.assign(thought.value, { order, without })
  else emit('close')
}
</script>

<template>
  <div class="what-if">
    <h1>What if …</h1>
    <EmptyNote v-if="!thinking">
      Suppose something, or drag a bar of the plan to another time. What it does to every promise is shown beside it;
      nothing is changed until you say so.
    </EmptyNote>
    <div class="offers">
      <button v-for="o in offers" :key="o.name" class="side" type="button" @click="o.add">{{ o.name }}</button>
    </div>
    <ul class="thoughts">
      <li v-for="(a, i) in thought.away" :key="`away ${i}`">
        <PickField v-model="a.personId" label="Away" :choices="persons" :fault="faultAt(`away[${i}].personId`)" />
        <FieldPair>
          <DateField v-model="a.firstDay" label="from" :fault="faultAt(`away[${i}].firstDay`)" />
          <DateField v-model="a.lastDay" label="to" :fault="faultAt(`away[${i}].lastDay`)" />
        </FieldPair>
        <button class="word" type="button" @click="thought.away.splice(i, 1)">Leave this out</button>
      </li>
      <li v-for="(c, i) in thought.comes" :key="`comes ${i}`">
        <FieldPair>
          <PickField
            v-model="c.personId"
            label="Comes in"
            :choices="helpers"
            :fault="faultAt(`comes[${i}].personId`)"
          />
          <DateField v-model="c.day" label="on" :fault="faultAt(`comes[${i}].day`)" />
        </FieldPair>
        <FieldPair>
          <HourField
            label="from"
            :model-value="timeOf(c.fromMinute)"
            :fault="faultAt(`comes[${i}].fromMinute`)"
            @update:model-value="c.fromMinute = minuteOf($event)"
          />
          <HourField
            label="to"
            :model-value="timeOf(c.toMinute)"
            :fault="faultAt(`comes[${i}].toMinute`)"
            @update:model-value="c.toMinute = minuteOfEnd('toMinute', $event)"
          />
        </FieldPair>
        <button class="word" type="button" @click="thought.comes.splice(i, 1)">Leave this out</button>
      </li>
      <li v-if="thought.places > 0">
        <CountField v-model="thought.places" label="Places on one more rack" :most="1000" :fault="faultAt('places')" />
        <button class="word" type="button" @click="thought.places = 0">Leave this out</button>
      </li>
      <li v-for="(stage, i) in thought.anyTime" :key="`any time ${stage}`">
        <b>{{ work[stage] }} at any time, whenever you like it</b>
        <button class="word" type="button" @click="thought.anyTime.splice(i, 1)">Leave this out</button>
      </li>
      <li v-for="(h, i) in thought.holds" :key="`hold ${h.lotId}`">
        <b>{{ h.said }}</b>
        <FieldPair>
          <DateField
            label="on"
            :model-value="dateOf(h.at)"
            :fault="faultAt(`holds[${i}].at`)"
            @update:model-value="$event && setTime(i, $event, timeOn(h.at))"
          />
          <HourField label="at" :model-value="timeOn(h.at)" @update:model-value="setTime(i, dateOf(h.at), $event)" />
        </FieldPair>
        <PickField
          label="by"
          :model-value="h.personId ?? 0"
          :choices="[{ value: 0, name: 'anybody' }, ...persons]"
          @update:model-value="h.personId = $event || undefined"
        />
        <p v-if="supposed?.broken.includes(h.lotId)" class="bad">
          It cannot be then: a rest, somebody’s hours or the rack stand against it.
        </p>
        <button class="word" type="button" @click="thought.holds.splice(i, 1)">Leave this out</button>
      </li>
      <li v-for="(f, i) in thought.first" :key="`first ${f.lotId}`">
        <b>{{ f.said }}</b>
        <button class="word" type="button" @click="thought.first.splice(i, 1)">Leave this out</button>
      </li>
      <li v-if="thought.order">
        <PickField
          v-model="thought.order.productId"
          label="Ordered"
          :choices="made"
          :fault="faultAt('order.lines[0].productId')"
        />
        <FieldPair>
          <CountField
            v-model="thought.order.quantity"
            label="Pieces"
            :least="1"
            :most="500"
            :fault="faultAt('order.lines[0].quantity')"
          />
          <DateField v-model="thought.order.dueOn" label="due" :fault="faultAt('order.dueOn')" />
        </FieldPair>
        <p v-if="supposed?.order?.at">ready {{ moment(supposed.order.at, thisMinute) }}</p>
        <button class="word" type="button" @click="thought.order = null">Leave this out</button>
      </li>
      <li v-for="(id, i) in thought.without" :key="`without ${id}`">
        <PickField
          label="Not made"
          :model-value="id"
          :choices="openOrders"
          :fault="faultAt(`without[${i}]`)"
          @update:model-value="thought.without[i] = $event"
        />
        <button class="word" type="button" @click="thought.without.splice(i, 1)">Leave this out</button>
      </li>
    </ul>
    <template v-if="thinking">
      <GroupHead name="What comes of it" />
      <p v-if="error" class="bad" role="alert">{{ error.message }}</p>
      <div v-else-if="supposed" :aria-busy="asking">
        <p aria-live="polite">
          <b>Orders: {{ late(supposed.lateThen) }}</b>
          <span class="quiet">, {{ late(supposed.lateNow) }} as it is</span>
        </p>
        <template v-if="broken.length">
          <h3>Call {{ broken.length === 1 ? 'this customer' : `these ${broken.length}` }}</h3>
          <MoveList :moves="broken" />
        </template>
        <p v-else class="quiet">It breaks nobody’s promise.</p>
        <template v-if="mended.length">
          <h3>Better for</h3>
          <MoveList :moves="mended" />
        </template>
        <FoldBox v-if="inTime.length" :name="`${inTime.length} ready on another day, in time all the same`">
          <MoveList :moves="inTime" />
        </FoldBox>
      </div>
      <TroubleNote :trouble="trouble" />
      <ActRow>
        <button v-if="acceptable" class="act" type="button" :disabled="busy || !sure" @click="accept">
          {{ ordersToo ? 'Make the rest so' : 'Make it so' }}
        </button>
        <button v-if="thought.order" class="side" type="button" @click="takeOrder">Take this order</button>
        <button v-for="id in thought.without" :key="id" class="side" type="button" @click="open('order', id)">
          To order {{ numberOf(id) }}
        </button>
        <button class="side" type="button" @click="dropThought">Drop it</button>
      </ActRow>
    </template>
  </div>
</template>

<style scoped>
.what-if {
  overflow-wrap: anywhere;
  display: grid;
  gap: 10px;
}
.offers {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.offers .side {
  min-height: 32px;
  padding: 0 10px;
}
.thoughts {
  display: grid;
  gap: 10px;
}
.thoughts li {
  display: grid;
  gap: 6px;
  padding: 8px 10px 6px;
  border: 1px solid var(--line);
  border-left: 3px solid var(--straw);
}
.thoughts .word {
  justify-self: start;
}
h3 {
  margin: 8px 0 4px;
  font-size: 15px;
}
@media (max-width: 640px), (pointer: coarse) {
  .offers .side {
    min-height: 48px;
  }
}
</style>
