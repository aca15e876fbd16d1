<script setup lang="ts">
import InTurn from '../shared/InTurn.vue'
import EmptyNote from '../shared/EmptyNote.vue'
import CountField from '../shared/CountField.vue'
import { figure } from '../shared/habit'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useAnswer } from '../api/answers'
import { money, rounded, unit } from '../shared/money'
import CostCurve from '../products/CostCurve.vue'
import EarningBars from './EarningBars.vue'
import { earningAt, whyLess, type Earning } from './earning'
import StepCosts from '../products/StepCosts.vue'
import PickField from '../shared/PickField.vue'

const SalesTable = defineAsyncComponent(() => import('./SalesTable.vue'))

// What a piece really costs and what an hour of it earns, beside another product if asked.
const route = useRoute()
const router = useRouter()
const id = computed(() => Number(route.params.id))
const beside = computed(() => Number(route.query.beside) || 0)
const pieces = ref(12)
const asked = computed(() => Math.max(1, Math.min(500, Math.round(pieces.value) || 1)))
const outletId = ref(0)

const costsOf = (product: () => number) =>
  useAnswer('/api/products/{id}/costs', () => ({ path: { id: product() }, query: { pieces: asked.value } }), {
    enabled: () => product() > 0,
    keep: true,
  })
const { data: costs, error } = costsOf(() => id.value)
const { data: besideCosts } = costsOf(() => beside.value)
const other = computed(() => (beside.value ? besideCosts.value : undefined))
const { data: products } = useAnswer('/api/products')

watch(costs, (c) => {
  if (c && !c.sales.some((s) => s.outletId === outletId.value)) outletId.value = c.sales[0]?.outletId ?? 0
})
const compare = (to: number) => router.replace({ query: { ...route.query, beside: to || undefined } })
const others = computed(() =>
  products.value
    ? [
        { value: 0, name: 'no other product' },
        ...products.value.filter((p) => p.id !== id.value).map((p) => ({ value: p.id, name: p.name })),
      ]
    : undefined,
)

const earnings = computed(() =>
  [costs.value, other.value].filter((c) => c !== undefined).map((c) => earningAt(c, outletId.value)),
)
const why = computed(() => {
  const [a, b] = earnings.value
  return a && b && a.minutes > 0 && b.minutes > 0 ? whyLess(a, b) : ''
})
const spent = (e: Earning) => e.parts.reduce((all, p) => all + p.amount, 0)
const widest = computed(() => Math.max(...earnings.value.map((e) => Math.max(e.tag, spent(e))), 0.01))
const longest = computed(() => Math.max(...earnings.value.map((e) => e.minutes), 0.01))
const started = computed(() => {
  const first = costs.value?.started[0]
  return first ? figure(Number(first.pieces), 1) : ''
})
</script>

<template>
  <template v-if="error && !costs">
    <h1>No product here</h1>
    <EmptyNote>{{ error.message }} <RouterLink to="/products">All products</RouterLink></EmptyNote>
  </template>
  <template v-else-if="costs">
    <p class="quiet">
      <RouterLink :to="`/products/${costs.productId}`">{{ costs.name }}</RouterLink>
    </p>
    <h1>What it costs and earns</h1>
    <InTurn
      ><form class="asks" @submit.prevent>
        <CountField v-model="pieces" label="Good pieces in the batch" :least="1" :most="500" />
        <PickField
          v-model="outletId"
          class="among"
          label="Sold at"
          :choices="costs.sales.map((s) => ({ value: s.outletId, name: s.name }))"
        />
        <PickField
          class="among"
          label="Beside"
          :model-value="beside"
          :choices="others"
          @update:model-value="compare"
        /></form
    ></InTurn>
    <InTurn
      ><div class="earnings">
        <p v-if="why" class="why">{{ why }}</p>
        <EarningBars v-for="e in earnings" :key="e.name" :earning="e" :widest="widest" :longest="longest" />
      </div> </InTurn
    ><InTurn
      ><div class="halves">
        <StepCosts :name="costs.name" :lines="costs.lines" :total="costs.perPiece.total" />
        <StepCosts v-if="other" :name="other.name" :lines="other.lines" :total="other.perPiece.total" />
        <section v-else aria-labelledby="sizes">
          <h2 id="sizes">A bigger batch saves</h2>
          <CostCurve :curve="costs.curve" :at="costs.pieces" />
          <p class="quiet">
            {{ started }} are started for {{ costs.pieces }} good ones; the lost ones cost
            {{ rounded(costs.spoilShare, 2) }} a good piece. The batch comes to {{ money(costs.batchTotal)
            }}<template v-if="costs.lotSize"> and is worked in lots of at most {{ costs.lotSize }}</template
            >.
          </p>
          <a class="quiet" :href="`/api/products/${costs.productId}/cost-problem?pieces=${costs.pieces}`" download
            >The same as a file, to reckon with elsewhere</a
          >
        </section>
      </div> </InTurn
    ><InTurn at-rest
      ><SalesTable :costs="costs" />
      <p class="quiet">In {{ unit() }}. Every step opens to how its figures were worked out.</p></InTurn
    >
  </template>
</template>

<style scoped>
.asks {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  margin: 10px 0 14px;
}
.among {
  width: 15em;
}
.earnings {
  display: grid;
  gap: 14px;
  padding: 12px 16px;
  border: 1px solid var(--line);
  background: var(--sheet);
}
.why {
  font-size: 17px;
}
.halves {
  display: grid;
  grid-template-columns: minmax(0, 1.25fr) minmax(0, 1fr);
  gap: 28px;
  margin: 18px 0;
}
.halves > section {
  display: grid;
  gap: 8px;
  align-content: start;
}
@media (max-width: 1000px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
