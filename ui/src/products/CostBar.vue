<script setup lang="ts">
import { figure } from '../shared/habit'
import { computed } from 'vue'
import { byKind, type CostLine } from './costs'
import './costs.css'

// What a cost is made of, to scale; of is the amount that fills the width.
const props = defineProps<{ lines: CostLine[]; of?: number; slim?: boolean }>()
const shares = computed(() => byKind(props.lines))
const whole = computed(() => props.of ?? shares.value.reduce((all, s) => all + s.amount, 0))
</script>

<template>
  <div class="bar drawn" :class="{ slim }" aria-hidden="true">
    <i
      v-for="s in shares"
      :key="s.key"
      :data-cost="s.key"
      :style="{ width: `${whole ? (s.amount / whole) * 100 : 0}%` }"
      :data-tip="`${s.name} ${figure(s.amount, 2)}`"
    />
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  height: 24px;
}
.slim {
  height: 14px;
}
</style>
