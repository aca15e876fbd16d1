<script setup lang="ts">
import { figure } from '../shared/habit'
import { useAnswer } from '../api/answers'
import type { Schemas } from '../api/client'
import { money } from '../shared/money'
import { useTray } from '../shared/tray'

// What the last batches really took, and the figures of the recipe that are off.
// They are taken over as a change of the recipe, which shows what it would cost and can be undone.
const props = defineProps<{ productId: number; cost: string }>()
const emit = defineEmits<{ take: [steps: Schemas['LearntStep'][]] }>()
const { open } = useTray()

const { data: learnt } = useAnswer('/api/products/{id}/learnt', () => ({ path: { id: props.productId } }))
const percent = (share: number) => `${figure(Math.round(share * 1000) / 10)} %`
const said = (s: Schemas['LearntStep']) =>
  [
    s.realMinutesPerPiece !== undefined &&
      `took ${figure(s.realMinutesPerPiece)} min a piece, ${figure(s.minutesPerPiece)} in the recipe`,
    s.realYield !== undefined && `${percent(s.realYield)} came through, ${percent(s.yield)} in the recipe`,
  ]
    .filter(Boolean)
    .join('; ')
</script>

<template>
  <section v-if="learnt?.batches.length" class="learnt" aria-labelledby="learnt">
    <h2 id="learnt">What it really took</h2>
    <p>
      A good piece cost <b>{{ money(learnt.realCost) }}</b> over the last
      {{ learnt.batches.length === 1 ? 'batch' : `${learnt.batches.length} batches` }}; by the recipe it costs
      {{ cost }} in twelves.
      <span class="quiet">
        <template v-for="(b, i) in learnt.batches" :key="b.id"
          ><template v-if="i"> · </template
          ><button class="word" type="button" @click="open('batch', b.id)">batch {{ b.number }}</button>
          {{ money(b.realCost) }}</template
        >
      </span>
    </p>
    <template v-if="learnt.steps.length">
      <ul>
        <li v-for="s in learnt.steps" :key="s.stepId">
          <b>{{ s.name }}</b> {{ said(s) }} <span class="quiet">over {{ s.pieces }} pieces</span>
        </li>
      </ul>
      <button class="side" type="button" @click="emit('take', learnt.steps)">Take these figures into the recipe</button>
      <p class="quiet">
        Nothing is saved by that: you see what they change, and can undo it. What a batch used of a medium is taken over
        on the batch.
      </p>
    </template>
    <p v-else class="quiet">The recipe’s minutes and losses are near what was seen.</p>
  </section>
</template>

<style scoped>
.learnt {
  display: grid;
  gap: 6px;
  justify-items: start;
  margin-top: 24px;
  padding-top: 14px;
  border-top: 1px solid var(--line);
}
</style>
