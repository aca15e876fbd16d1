<script setup lang="ts">
import { useGradual } from '../shared/idle'
import EmptyNote from '../shared/EmptyNote.vue'
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import { lotByLot, personId, runs, seesBusiness } from '../shared/settings'
import { dateOf, dayName, moment } from '../shared/time'
import { useTray } from '../shared/tray'
import InHandCard from '../batches/InHandCard.vue'
import { useToday } from '../planning/queries'
import BeforeStop from './BeforeStop.vue'
import ReadyRow from './ReadyRow.vue'
import RestRow from './RestRow.vue'
import SittingRow from './SittingRow.vue'
import RiskDialog from '../batches/RiskDialog.vue'
import { useTakeUp } from '../batches/useTakeUp'

const { data: today } = useToday()
const { takeUp, busy, risk } = useTakeUp()
const { open } = useTray()

// What is in this person's hands comes first, and of that what runs.
const nearness = (w: Schemas['InHand']) => Number(w.personId === personId.value) * 2 + Number(!!w.runningSince)
const inHand = computed(() => [...(today.value?.inHand ?? [])].sort((a, b) => nearness(b) - nearness(a)))
const mine = computed(() => inHand.value.find((w) => w.personId === personId.value))
const nothing = computed(() => {
  const t = today.value
  return t !== undefined && t.inHand.length + t.ready.length + t.resting.length === 0
})
// Like work stands together, unless this device takes it up lot by lot.
const ready = computed(() => {
  const sittings = today.value?.ready ?? []
  if (!lotByLot.value) return sittings
  return sittings.flatMap((s) => s.lots.map((lot) => ({ stepName: lot.stepName, lots: [lot] })))
})
const readyLots = computed(() => ready.value.reduce((n, s) => n + s.lots.length, 0))
const readyCount = computed(() =>
  readyLots.value === ready.value.length
    ? String(readyLots.value)
    : `${ready.value.length} ${ready.value.length === 1 ? 'sitting' : 'sittings'}, ${readyLots.value} lots`,
)
const readyDrawn = useGradual(() => ready.value.length, 10)
const restingDrawn = useGradual(() => today.value?.resting.length ?? 0, 6)
</script>

<template>
  <h1 class="spoken">Today</h1>
  <div v-if="today" class="today">
    <section class="hand" aria-label="In hand">
      <InHandCard
        v-for="w in inHand"
        :key="w.sittingId ? `sitting ${w.sittingId}` : w.lots[0]!.runId"
        :work="w"
        :mine="w === mine"
      />
      <div v-if="inHand.length === 0" class="free">
        <h2>{{ today.opens ? 'Closed' : 'Your hands are free' }}</h2>
        <template v-if="today.opens">
          <p v-if="today.first">
            {{ moment(today.first.at, thisMinute) }}: {{ today.first.stepName.toLowerCase() }},
            {{ today.first.pieces }} × {{ today.first.product }} first<template v-if="today.first.person"
              >, {{ today.first.person }}</template
            >.
          </p>
          <p v-else class="quiet">Hands again {{ moment(today.opens, thisMinute) }}. Nothing is planned for then.</p>
        </template>
        <p v-else-if="today.ready.length" class="quiet">The most urgent step is first under “Ready for hands”.</p>
        <p v-else-if="today.resting[0]" class="quiet">
          Next: {{ today.resting[0].stepName.toLowerCase() }}, {{ moment(today.resting[0].ready, thisMinute) }}.
        </p>
        <p v-else class="quiet">Take an order, make up a batch, and its first step stands here.</p>
      </div>
    </section>
    <section aria-labelledby="ready">
      <div class="title">
        <h2 id="ready">Ready for hands</h2>
        <span class="quiet">{{ readyCount }}</span>
      </div>
      <ul class="ready">
        <template v-for="(sitting, i) in ready.slice(0, readyDrawn)" :key="sitting.lots[0]!.lotId">
          <ReadyRow
            v-if="sitting.lots.length === 1"
            :lot="sitting.lots[0]!"
            :busy="busy"
            :keyed="i === 0 && !mine"
            @take="takeUp(sitting.lots)"
          />
          <SittingRow v-else :sitting="sitting" :busy="busy" :keyed="i === 0 && !mine" @take="takeUp($event)" />
        </template>
      </ul>
      <EmptyNote v-if="today.ready.length === 0">Nothing waits for hands.</EmptyNote>
      <div v-if="today.wanted.length" class="wanted">
        <p v-for="w in today.wanted" :key="w.productId">
          {{ w.pieces }} × {{ w.product }} wanted, first due {{ dayName(w.dueOn, dateOf(thisMinute)) }}
          <button v-if="runs" class="word" type="button" @click="open('new-batch', w.productId)">
            Make up a batch
          </button>
        </p>
        <p v-if="runs && today.wanted.length > 1">
          <button class="word" type="button" @click="open('suggestions')">What goes together?</button>
        </p>
      </div>
      <div v-if="seesBusiness && today.pictures.length" class="wanted">
        <p v-for="m in today.pictures" :key="`${m.orderId} ${m.product}`">
          Ask {{ m.customer }} for {{ m.pieces }} {{ m.pieces === 1 ? 'picture' : 'pictures' }}: {{ m.product }}, due
          {{ dayName(m.dueOn, dateOf(thisMinute)) }}
          <button class="word" type="button" @click="open('order', m.orderId)">Open the order</button>
        </p>
      </div>
    </section>
    <section aria-labelledby="resting">
      <div class="title">
        <h2 id="resting">Resting</h2>
        <span class="quiet">{{ today.resting.length }}</span>
      </div>
      <ul>
        <RestRow
          v-for="lot in today.resting.slice(0, restingDrawn)"
          :key="lot.lotId"
          :lot="lot"
          :busy="busy"
          @take="takeUp([lot])"
        />
      </ul>
      <EmptyNote v-if="today.resting.length === 0">Nothing is resting.</EmptyNote>
      <ul v-if="seesBusiness && today.handOver.length" class="over" aria-label="To hand over">
        <li v-for="o in today.handOver" :key="o.orderId">
          <span
            >{{ o.pieces }} finished for <b>{{ o.customer }}</b></span
          >
          <button class="side" type="button" @click="open('order', o.orderId)">
            Hand over<span class="spoken"> to {{ o.customer }}</span>
          </button>
        </li>
      </ul>
    </section>
    <BeforeStop v-if="!nothing" :today="today" :busy="busy" @take="takeUp($event)" />
  </div>
  <div v-else class="today" aria-busy="true">
    <div class="ghost" />
    <div class="ghost" />
    <div class="ghost" />
  </div>
  <RiskDialog v-if="risk" :why="risk.why" :early="risk.early" @wait="risk = null" @accept="takeUp(risk.next, true)" />
</template>

<style scoped>
.today {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 4fr) minmax(0, 4fr);
  gap: 16px;
  align-items: start;
}
.title {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  padding-bottom: 7px;
  border-bottom: 1px solid var(--line);
}
.hand {
  display: grid;
  gap: 12px;
}
.free {
  padding: 18px;
  background: var(--sheet);
  border: 1px solid var(--line);
  border-top: 5px solid var(--line);
}
.ready {
  container-type: inline-size;
}
.over {
  margin-top: 16px;
}
.over li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  padding: 8px 0 8px 12px;
  border-left: 3px solid var(--glaze);
}
.over li + li {
  margin-top: 8px;
}
.wanted p {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 12px;
}
.wanted {
  margin-top: 12px;
  padding: 8px 12px;
  border: 1px dashed var(--clay);
  background: var(--sheet);
}
.ghost {
  height: 420px;
  background: var(--sheet);
  opacity: 0.6;
}
@media (max-width: 1000px) {
  .today {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  }
  .hand {
    grid-column: 1 / -1;
  }
}
@media (max-width: 640px) {
  .today {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
