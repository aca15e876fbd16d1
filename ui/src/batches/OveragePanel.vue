<script setup lang="ts">
import { figure } from '../shared/habit'
import { computed, ref } from 'vue'
import { useAnswer } from '../api/answers'
import { money } from '../shared/money'
import PickField from '../shared/PickField.vue'

// How many to start so that enough come out good, at a confidence one chooses.
const props = defineProps<{ productId: number; good: number; each: '' | 'name' | 'picture' }>()
const emit = defineEmits<{ take: [start: number] }>()
const confidence = ref(0)
const good = computed(() => Math.max(1, Math.min(499, Math.round(props.good) || 1)))

const { data: overage } = useAnswer(
  '/api/products/{id}/overage',
  () => ({
    path: { id: props.productId },
    query: { good: good.value, confidence: confidence.value || undefined },
  }),
  { keep: true },
)
const percent = (share: number) => `${Math.round(share * 100)} in 100`
const levels = computed(() => {
  const own = overage.value?.confidence ?? 0.8
  return [...new Set([0.5, 0.7, 0.8, 0.9, 0.95, 0.99, own])].sort()
})
</script>

<template>
  <section v-if="overage" class="overage" aria-labelledby="enough">
    <h2 id="enough">Enough good ones?</h2>
    <PickField
      label="How sure to be"
      :model-value="overage.confidence"
      :choices="levels.map((c) => ({ value: c, name: percent(c) }))"
      @update:model-value="confidence = $event"
    />
    <p v-if="each">
      <b>{{ overage.spareBlanks }} spare {{ overage.spareBlanks === 1 ? 'blank' : 'blanks' }}</b> for
      {{ good === 1 ? `the one ${each}` : `${good} ${each}s` }}, since a spare {{ each }} replaces no other. Expect
      {{ figure(overage.expectedRemakes ?? 0, 1) }} to be made again; a second run comes
      {{ percent(overage.secondRunChance ?? 0) }} times.
    </p>
    <p v-else>
      Start <b>{{ overage.start }}</b> for {{ good === 1 ? 'a good one' : `${good} good ones` }}: enough
      {{ percent(overage.chance) }} times.
      <button class="word" type="button" @click="emit('take', overage.start)">Start {{ overage.start }}</button>
    </p>
    <p class="quiet">
      One more costs {{ money(overage.oneMore) }}, a run for one that is short {{ money(overage.oneShort) }}, so it pays
      to be sure up to {{ percent(overage.pays) }}. Taken {{ overage.from }}.
    </p>
  </section>
</template>

<style scoped>
.overage {
  display: grid;
  gap: 8px;
  padding: 12px;
  border: 1px solid var(--line);
  background: var(--paper);
}
</style>
