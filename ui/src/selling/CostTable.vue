<script setup lang="ts">
import { computed } from 'vue'
import CostBar from '../products/CostBar.vue'
import { byKind, type CostLine } from '../products/costs'

// What a piece costs by kind; each kind opens to how it was worked out.
const props = defineProps<{ productId: number; lines: CostLine[]; cost: string }>()
const shares = computed(() => byKind(props.lines))
</script>

<template>
  <section aria-labelledby="costs">
    <h2 id="costs">What a piece costs</h2>
    <CostBar :lines="lines" />
    <div class="kinds">
      <details v-for="s in shares" :key="s.key">
        <summary>
          <span>{{ s.name }}</span><b>{{ s.amount.toFixed(2) }}</b>
        </summary>
        <p v-for="l in s.lines.filter((l) => Number(l.amount) > 0)" :key="l.stepId + l.name" class="quiet">
          {{ l.step }}<template v-if="l.name !== s.name">, {{ l.name }}</template> {{ l.amount }}: {{ l.how }}
        </p>
      </details>
      <p class="sum">
        <span>A good piece, in twelves</span><b>{{ cost }}</b>
      </p>
    </div>
    <RouterLink :to="`/products/${productId}/costs`">What it costs and earns, step by step</RouterLink>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 10px;
  align-content: start;
}
summary,
.sum {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding-block: 5px;
  border-top: 1px solid var(--line);
}
summary {
  cursor: pointer;
  list-style: none;
}
summary span::after {
  content: ' ›';
  color: var(--soft);
}
summary b {
  font-weight: 400;
}
summary:hover span {
  text-decoration: underline;
}
details[open] {
  padding-bottom: 8px;
}
details p {
  margin: 2px 0 4px;
  overflow-wrap: anywhere;
}
.sum {
  font-weight: 650;
  border-top-color: var(--ink);
}
@media (max-width: 640px), (pointer: coarse) {
  summary {
    min-height: 48px;
    align-items: center;
  }
}
</style>
