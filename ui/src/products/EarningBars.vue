<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { amount } from '../shared/money'
import './costs.css'

// Where the money of one piece goes, and the minutes it takes: what is left over
// the minutes is what an hour earns. Both bars are to the scale of what is compared.
const props = defineProps<{ costs: Schemas['Costs']; outletId: number; widest: number; longest: number }>()

const sale = computed(() => props.costs.sales.find((s) => s.outletId === props.outletId) ?? props.costs.sales[0]!)
const money = computed(() => {
  const p = props.costs.perPiece
  return [
    { key: 'tax', name: 'Sales tax', amount: Number(sale.value.tax) },
    { key: 'fees', name: 'Fees', amount: Number(sale.value.fees) },
    { key: 'materials', name: 'Materials and print', amount: Number(p.materials) },
    { key: 'outside', name: 'Bought in', amount: Number(p.outside) },
    { key: 'overhead', name: 'Room and tools', amount: Number(p.overhead) },
  ].filter((m) => m.amount >= 0.005)
})
const left = computed(
  () => Number(sale.value.kept) - Number(props.costs.perPiece.total) + Number(props.costs.perPiece.labour),
)
const minutes = computed(() => Number(props.costs.handsMinutes))
const wide = (value: number, of: number) => `${of > 0 ? (Math.max(0, value) / of) * 100 : 0}%`
</script>

<template>
  <section :aria-label="costs.name">
    <header>
      <h3>{{ costs.name }}</h3>
      <p class="earns">
        <b>{{ sale.earnedPerHour || '–' }}</b> an hour
      </p>
    </header>
    <div class="bar drawn" aria-hidden="true">
      <i v-for="m in money" :key="m.key" :data-cost="m.key" :style="{ width: wide(m.amount, widest) }" />
      <i data-cost="left" :style="{ width: wide(left, widest) }" />
    </div>
    <p class="sum">
      Sells at <b>{{ amount(sale.tag) }}</b><template v-for="m in money" :key="m.key"
        >, <span :data-cost="m.key" />{{ m.name.toLowerCase() }} {{ m.amount.toFixed(2) }}</template
      >: <span data-cost="left" /><b :class="{ bad: left < 0 }">{{ left.toFixed(2) }}</b> left for your time
    </p>
    <div class="bar time drawn" aria-hidden="true">
      <i data-cost="labour" :style="{ width: wide(minutes, longest) }" />
    </div>
    <p class="sum">
      <b>{{ minutes.toFixed(1) }} min</b> of your hands, so {{ left.toFixed(2) }} × 60 ÷ {{ minutes.toFixed(1) }} is
      {{ sale.earnedPerHour || 'nothing' }} an hour
    </p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 5px;
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 12px;
}
.earns b {
  font: 650 25px/1.1 var(--heading);
  color: var(--clay);
}
.bar {
  display: flex;
  height: 26px;
}
.time {
  height: 12px;
}
.sum {
  margin-bottom: 4px;
  font-size: 14px;
  color: var(--soft);
}
.sum b {
  color: var(--ink);
}
.sum .bad {
  color: var(--brick);
}
</style>
