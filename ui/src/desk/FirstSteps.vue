<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import type { Schemas } from '../api/client'
import { firstSteps } from '../shared/settings'

// The way of a new owner from nothing to a first planned batch, on every page
// until it is gone through.
const props = defineProps<{ done: Schemas['FirstSteps'] }>()
const route = useRoute()

const steps = [
  { key: 'hours', name: 'Your hours', act: 'Say when you work', to: '/workshop' },
  { key: 'product', name: 'What you make', act: 'Choose what to make', to: '/products/new' },
  { key: 'order', name: 'An order', act: 'Take an order', to: '/orders?tray=new-order' },
  { key: 'batch', name: 'Its batch', act: 'Make up its batch', to: '/plan?tray=new-batch' },
] as const
const next = computed(() => steps.find((s) => !props.done[s.key]))
const states = { done: 'success', next: 'process', 'to come': 'wait' } as const
const how = (key: (typeof steps)[number]['key']) =>
  props.done[key] ? 'done' : next.value?.key === key ? 'next' : 'to come'
</script>

<template>
  <nav class="first" aria-label="First steps">
    <template v-if="next">
      <p><b>Four steps to a first planned batch</b></p>
      <el-steps simple role="list">
        <el-step v-for="s in steps" :key="s.key" role="listitem" :status="states[how(s.key)]">
          <template #icon><i class="drawn" aria-hidden="true" /></template>
          <template #title
            >{{ s.name }}<span class="spoken">, {{ how(s.key) }}</span></template
          >
        </el-step>
      </el-steps>
      <RouterLink v-if="route.fullPath !== next.to" class="act" :to="next.to">{{ next.act }}</RouterLink>
      <button class="word" type="button" @click="firstSteps = 'past'">I know my way</button>
    </template>
    <template v-else>
      <p><b>Your first batch is planned.</b> Today shows what to take in hand, and when each rest is over.</p>
      <RouterLink class="act" to="/" @click="firstSteps = 'past'">See today</RouterLink>
    </template>
  </nav>
</template>

<style scoped>
.first {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 24px;
  padding: 10px 20px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet);
}
.el-steps {
  margin-right: auto;
}
.act {
  display: inline-flex;
  align-items: center;
  text-decoration: none;
}
@media (max-width: 640px) {
  .first {
    padding: 10px 12px;
  }
}
</style>
