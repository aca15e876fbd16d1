<script setup lang="ts">
import WaitingRows from '../shared/WaitingRows.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import TextField from '../shared/TextField.vue'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useAnswer } from '../api/answers'
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import { unit } from '../shared/money'
import { dateOf, dayName } from '../shared/time'
import { useTray } from '../shared/tray'
import ShoppingLists from '../desk/ShoppingLists.vue'
import StockFall from '../desk/StockFall.vue'
import { kinds, quantity, unitCost, type Kind } from './words'
import GroupHead from '../shared/GroupHead.vue'
import ThingRow from '../shared/ThingRow.vue'
import PickField from '../shared/PickField.vue'
import { choicesOf } from '../shared/choices'

const PageTurner = defineAsyncComponent(() => import('../shared/PageTurner.vue'))

// What is left of everything, when it runs out by the plan, and the day to order it.
const { shown } = useTray()
const text = ref('')
const kind = ref<Kind | ''>('')
const page = ref(1)
watch([text, kind], () => (page.value = 1))

const { data: list } = useAnswer(
  '/api/materials',
  () => ({ query: { text: text.value, kind: kind.value || undefined, page: page.value } }),
  { keep: true },
)
const { data: needs, error: unplanned } = useAnswer('/api/needs')

const groups = computed(() => {
  const rows = list.value?.rows ?? []
  return (Object.keys(kinds) as Kind[])
    .map((k) => ({ kind: k, rows: rows.filter((r) => r.kind === k) }))
    .filter((g) => g.rows.length > 0)
})
const needOf = computed(() => new Map((needs.value?.materials ?? []).map((n) => [n.materialId, n])))
const until = computed(() =>
  Math.max(
    thisMinute.value + 24 * 3600000,
    ...(needs.value?.materials ?? []).map((n) => Date.parse(n.levels[n.levels.length - 1]?.at ?? '') || 0),
  ),
)
const today = computed(() => dateOf(thisMinute.value))
function standing(r: Schemas['MaterialRow']) {
  const n = needOf.value.get(r.id)
  if (!r.counted) return { text: n ? `${quantity(n.needed, r.unit)} planned, not counted` : 'not counted', bad: false }
  if (n?.runsOutAt)
    return {
      text: `runs out ${dayName(dateOf(n.runsOutAt), today.value)} · order ${dayName(n.orderBy, today.value)}`,
      bad: true,
    }
  if (r.useBy && r.useBy <= today.value) return { text: `too old since ${dayName(r.useBy, today.value)}`, bad: true }
  return { text: n ? 'enough for what is planned' : '', bad: false }
}
</script>

<template>
  <div v-if="list && (needs || unplanned)" class="floor" :class="{ narrow: shown }">
    <div>
      <form class="asks" role="search" @submit.prevent>
        <TextField
          v-model="text"
          bare
          label="Find a material"
          type="search"
          placeholder="Find a material"
          maxlength="120"
        />
        <PickField
          v-model="kind"
          bare
          label="Kind"
          :choices="[{ value: '', name: 'all kinds' }, ...choicesOf(kinds)]"
        />
      </form>
      <section v-for="g in groups" :key="g.kind" :aria-label="kinds[g.kind]">
        <GroupHead :name="kinds[g.kind] ?? ''" />
        <ul>
          <li v-for="r in g.rows" :key="r.id">
            <ThingRow :id="r.id" kind="material" class="row">
              <span class="name">{{ r.name }}</span>
              <b class="left">{{ r.counted ? quantity(r.onHand, r.unit) : '–' }}</b>
              <StockFall v-if="needOf.get(r.id)?.levels.length" :need="needOf.get(r.id)!" :until="until" />
              <span v-else />
              <span class="standing" :class="standing(r).bad ? 'bad' : 'quiet'">{{ standing(r).text }}</span>
              <span class="cost"
                >{{ unitCost(r.unitCost) }}<span class="quiet"> a {{ r.unit }}</span>
                <span v-if="r.latestCost && unitCost(r.latestCost) !== unitCost(r.unitCost)" class="quiet again"
                  >to buy again {{ unitCost(r.latestCost) }}</span
                ></span
              >
            </ThingRow>
          </li>
        </ul>
      </section>
      <EmptyNote v-if="list && list.total === 0">
        {{ text || kind ? 'No material is called that.' : 'No materials yet. Add what you work with.' }}
      </EmptyNote>
      <PageTurner v-if="list" v-model="page" :pages="list.pages" :total="list.total" of="materials" />
      <p class="quiet">
        In {{ unit() }}: the average of what is left. The small curve shows how each runs down as the planned work takes
        it.
      </p>
    </div>
    <ShoppingLists
      v-if="needs && !shown"
      :lists="needs.shopping"
      :not-counted="needs.notCounted"
      :riders="needs.riders"
    />
  </div>
  <WaitingRows v-if="!list" />
</template>

<style scoped>
.floor {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 320px;
  gap: 28px;
}
.floor.narrow {
  grid-template-columns: minmax(0, 1fr);
}
.asks {
  display: flex;
  gap: 10px;
}
.asks > * {
  width: 100%;
  max-width: 260px;
}
.row {
  grid-template-columns: minmax(8em, 1.2fr) 6em 168px minmax(9em, 1fr) minmax(8em, auto);
  gap: 2px 14px;
  min-height: 44px;
  padding: 4px 0;
}
.narrow .row {
  grid-template-columns: minmax(7em, 1fr) 8em 168px;
}
.left,
.cost {
  text-align: right;
}
.standing {
  font-size: 14px;
  line-height: 1.25;
}
.again {
  display: block;
  font-size: 13px;
}
@media (max-width: 1100px) {
  .floor {
    grid-template-columns: minmax(0, 1fr);
  }
  .floor:not(.narrow) > :last-child {
    order: -1;
  }
}
@media (max-width: 640px) {
  .row,
  .narrow .row {
    grid-template-columns: minmax(0, 1fr) auto;
    padding: 8px 0;
  }
  .standing {
    grid-column: 1 / -1;
  }
}
</style>
