<script setup lang="ts">
import { amount } from '../shared/money'
import FoldBox from '../shared/FoldBox.vue'
import { figure, written } from '../shared/habit'
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
      <FoldBox v-for="s in shares" :key="s.key" :name="s.name">
        <template #name>
          <span class="kind">{{ s.name }}</span><span>{{ figure(s.amount, 2) }}</span>
        </template>
        <p v-for="l in s.lines.filter((l) => Number(l.amount) > 0)" :key="l.stepId + l.name" class="quiet">
          {{ l.step }}<template v-if="l.name !== s.name">, {{ l.name }}</template> {{ written(l.amount) }}: {{ l.how }}
        </p>
      </FoldBox>
      <p class="sum">
        <span>A good piece, in twelves</span><b>{{ amount(cost) }}</b>
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
.sum {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding-block: 5px;
  border-top: 1px solid var(--ink);
  font-weight: 650;
}
.kind {
  margin-right: auto;
}
.kinds p.quiet {
  margin: 2px 0 4px;
  overflow-wrap: anywhere;
}
</style>
