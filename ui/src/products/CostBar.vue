<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'

const props = defineProps<{ lines: Schemas['CostLine'][] }>()
const sum = computed(() => props.lines.reduce((all, l) => all + Number(l.amount), 0))
const wide = (l: Schemas['CostLine']) => `${(Number(l.amount) / sum.value) * 100}%`
</script>

<template>
  <div class="bar drawn" aria-hidden="true">
    <i v-for="l in lines" :key="l.name" :class="l.kind" :style="{ width: wide(l) }" :title="`${l.name} ${l.amount}`" />
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  gap: 2px;
  height: 24px;
}
.blank {
  background: #6c5f45;
}
.material {
  background: #8089a0;
}
.material:nth-child(odd) {
  background: var(--night);
}
.labour {
  background: var(--clay);
}
.overhead {
  background: var(--edge);
}
.spoils {
  background: var(--brick);
}
</style>
