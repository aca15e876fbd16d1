<script setup lang="ts">
import { figure } from '../shared/habit'
import { computed } from 'vue'
import { amount } from '../shared/money'
import '../products/costs.css'
import type { Earning } from './earning'

// Where the money of one piece goes, and the minutes it takes: what is left over
// the minutes is what an hour earns. Both bars are to the scale of what is compared.
const props = defineProps<{ earning: Earning; widest: number; longest: number }>()

const parts = computed(() => props.earning.parts.filter((p) => p.amount >= 0.005))
const left = computed(() => figure(props.earning.left, 2))
const wide = (value: number, of: number) => `${of > 0 ? (Math.max(0, value) / of) * 100 : 0}%`
</script>

<template>
  <section :aria-label="earning.name">
    <header>
      <h2>{{ earning.name }}</h2>
      <p class="earns">
        <b>{{ earning.minutes > 0 ? figure(earning.perHour, 2) : '–' }}</b> an hour
      </p>
    </header>
    <div class="bar drawn" aria-hidden="true">
      <i v-for="p in parts" :key="p.key" :data-cost="p.key" :style="{ width: wide(p.amount, widest) }" />
      <i data-cost="left" :style="{ width: wide(earning.left, widest) }" />
    </div>
    <p class="sum">
      Sells at <b>{{ amount(String(earning.tag)) }}</b><template v-for="p in parts" :key="p.key"
        >, <span :data-cost="p.key" />{{ p.name.toLowerCase() }} {{ figure(p.amount, 2) }}</template
      >: <span data-cost="left" /><b :class="{ bad: earning.left < 0 }">{{ left }}</b> left for your time
    </p>
    <div class="bar time drawn" aria-hidden="true">
      <i data-cost="labour" :style="{ width: wide(earning.minutes, longest) }" />
    </div>
    <p class="sum">
      <b>{{ figure(earning.minutes, 1) }} min</b> of your hands<template v-if="earning.minutes > 0"
        >, so {{ left }} × 60 ÷ {{ figure(earning.minutes, 1) }} is {{ figure(earning.perHour, 2) }} an hour</template
      >
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
