<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import type { Schemas } from '../api/client'
import type { Outcomes } from './outcomes'

const OfferField = defineAsyncComponent(() => import('../shared/OfferField.vue'))

// How the pieces came out: all are good until some are named as again, rework or spoiled.
const props = defineProps<{
  pieces: Schemas['PieceFacts'][]
  may: string[]
  fault: (field: string) => string
  // of names the lot where several are asked about; it stands beside the counts, in the slot.
  of?: string
}>()
const model = defineModel<Outcomes>({ required: true })

type Other = 'again' | 'rework' | 'spoiled'
const choosing = ref<Other | null>(null)
const others: { key: Other; name: string; ask: string }[] = [
  { key: 'again', name: 'again', ask: 'Tap the pieces that need the step again.' },
  { key: 'rework', name: 'rework', ask: 'Tap the pieces to sand back: the blank is saved, the print is lost.' },
  { key: 'spoiled', name: 'spoiled', ask: 'Tap the pieces that are lost.' },
]
const offered = computed(() => others.filter((o) => props.may.includes(o.key)))
const lastReason = ref('')
const reasons = [
  'lifted at the rim',
  'bubble under the print',
  'crease',
  'lettering lost',
  'haze that stays',
  'blank cracked',
]

const good = computed(
  () => props.pieces.length - model.value.again.length - model.value.rework.length - model.value.spoiled.length,
)
const nameOf = (p: Schemas['PieceFacts']) => p.lettering || `piece ${p.number}`
const pieceOf = (id: number) => props.pieces.find((p) => p.id === id)
const becomes = (id: number): Other | '' =>
  model.value.again.includes(id)
    ? 'again'
    : model.value.rework.includes(id)
      ? 'rework'
      : model.value.spoiled.some((s) => s.pieceId === id)
        ? 'spoiled'
        : ''

function choose(id: number) {
  const was = becomes(id)
  const again = model.value.again.filter((p) => p !== id)
  const rework = model.value.rework.filter((p) => p !== id)
  const spoiled = model.value.spoiled.filter((s) => s.pieceId !== id)
  if (choosing.value !== was) {
    if (choosing.value === 'again') again.push(id)
    if (choosing.value === 'rework') rework.push(id)
    if (choosing.value === 'spoiled') spoiled.push({ pieceId: id, reason: lastReason.value })
  }
  model.value = { again, rework, spoiled }
}
function explain(id: number, reason: string) {
  lastReason.value = reason
  model.value = { ...model.value, spoiled: model.value.spoiled.map((s) => (s.pieceId === id ? { ...s, reason } : s)) }
}
const toggle = (kind: Other) => (choosing.value = choosing.value === kind ? null : kind)
</script>

<template>
  <fieldset>
    <legend :class="{ spoken: of }">
      How did {{ of ?? `the ${pieces.length === 1 ? 'piece' : pieces.length}` }} come out?
    </legend>
    <div :class="{ beside: of }">
      <slot />
      <div class="tally">
        <div class="cell">
          <b>{{ good }}</b>good
        </div>
        <button
          v-for="o in offered"
          :key="o.key"
          type="button"
          class="cell"
          :aria-expanded="choosing === o.key"
          @click="toggle(o.key)"
        >
          <b>{{ model[o.key].length }}</b>{{ o.name }}
        </button>
      </div>
    </div>
    <div v-if="choosing" class="chooser" role="group" :aria-label="`Which: ${choosing}`">
      <p class="quiet">
        {{ others.find((o) => o.key === choosing)?.ask }}
      </p>
      <button
        v-for="p in pieces"
        :key="p.id"
        type="button"
        class="chip"
        :class="becomes(p.id)"
        :aria-pressed="becomes(p.id) === choosing"
        @click="choose(p.id)"
      >
        {{ nameOf(p) }}<span v-if="becomes(p.id)"> · {{ becomes(p.id) }}</span>
      </button>
    </div>
    <div v-for="(s, i) in model.spoiled" :key="s.pieceId" class="reason">
      <OfferField
        :label="`Why is ${pieceOf(s.pieceId) ? nameOf(pieceOf(s.pieceId)!) : 'it'} spoiled?`"
        :offers="reasons"
        maxlength="200"
        :model-value="s.reason"
        :fault="fault(`spoiled[${i}].reason`) ? 'Say in a word what happened.' : ''"
        @update:model-value="explain(s.pieceId, $event)"
      />
    </div>
  </fieldset>
</template>

<style scoped>
fieldset {
  display: grid;
  gap: 8px;
}
.beside {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 232px);
  gap: 0 12px;
  align-items: start;
}
.tally {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  border: 1px solid var(--edge);
  border-radius: var(--radius);
}
.cell {
  display: grid;
  justify-items: center;
  gap: 0;
  padding: 5px 0;
  min-height: 56px;
  border: 0;
  background: none;
}
.cell + .cell {
  border-left: 1px solid var(--line);
}
.cell b {
  font-size: 21px;
  line-height: 1.2;
}
button.cell {
  cursor: pointer;
  text-decoration: underline;
  text-underline-offset: 3px;
}
button.cell[aria-expanded='true'] {
  background: var(--paper);
}
button.cell b {
  text-decoration: none;
  display: inline-block;
}
.chooser {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.chooser p {
  width: 100%;
}
.chip {
  min-height: 44px;
  padding: 0 12px;
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  background: var(--sheet);
  cursor: pointer;
}
.chip.again {
  border-color: var(--night);
  background: #e4e8ef;
}
.chip.rework {
  border-color: var(--straw);
  background: var(--straw-wash);
  color: #6f470c;
}
.chip.spoiled {
  border-color: var(--brick);
  background: #f8e9e4;
  color: var(--brick);
}
.reason {
  display: grid;
  gap: 4px;
}
@media (max-width: 640px) {
  .beside {
    grid-template-columns: minmax(0, 1fr);
    gap: 6px;
  }
}
@media (max-width: 640px), (pointer: coarse) {
  .chip {
    min-height: 48px;
  }
}
</style>
