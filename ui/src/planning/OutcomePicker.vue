<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import type { Outcomes } from './outcomes'

// How the pieces came out: all are good until some are named as again or spoiled.
const props = defineProps<{ pieces: Schemas['PieceFacts'][]; mayRepeat: boolean; fault: (field: string) => string }>()
const model = defineModel<Outcomes>({ required: true })

const choosing = ref<'again' | 'spoiled' | null>(null)
const lastReason = ref('')
const reasons = [
  'lifted at the rim',
  'bubble under the print',
  'crease',
  'lettering lost',
  'haze that stays',
  'blank cracked',
]

const good = computed(() => props.pieces.length - model.value.again.length - model.value.spoiled.length)
const nameOf = (p: Schemas['PieceFacts']) => p.lettering || `piece ${p.number}`
const pieceOf = (id: number) => props.pieces.find((p) => p.id === id)
const isAgain = (id: number) => model.value.again.includes(id)
const isSpoiled = (id: number) => model.value.spoiled.some((s) => s.pieceId === id)

function choose(id: number) {
  const again = model.value.again.filter((p) => p !== id)
  const spoiled = model.value.spoiled.filter((s) => s.pieceId !== id)
  if (choosing.value === 'again' && !isAgain(id)) again.push(id)
  if (choosing.value === 'spoiled' && !isSpoiled(id)) spoiled.push({ pieceId: id, reason: lastReason.value })
  model.value = { again, spoiled }
}
function explain(id: number, reason: string) {
  lastReason.value = reason
  model.value = { ...model.value, spoiled: model.value.spoiled.map((s) => (s.pieceId === id ? { ...s, reason } : s)) }
}
const toggle = (kind: 'again' | 'spoiled') => (choosing.value = choosing.value === kind ? null : kind)
</script>

<template>
  <fieldset>
    <legend>How did the {{ pieces.length === 1 ? 'piece' : pieces.length }} come out?</legend>
    <div class="tally">
      <div class="cell">
        <b>{{ good }}</b>good
      </div>
      <button
        v-if="mayRepeat"
        type="button"
        class="cell"
        :aria-expanded="choosing === 'again'"
        @click="toggle('again')"
      >
        <b>{{ model.again.length }}</b>again
      </button>
      <button type="button" class="cell" :aria-expanded="choosing === 'spoiled'" @click="toggle('spoiled')">
        <b>{{ model.spoiled.length }}</b>spoiled
      </button>
    </div>
    <div
      v-if="choosing"
      class="chooser"
      role="group"
      :aria-label="choosing === 'again' ? 'Which go again' : 'Which are spoiled'"
    >
      <p class="quiet">
        {{ choosing === 'again' ? 'Tap the pieces that need the step again.' : 'Tap the pieces that are lost.' }}
      </p>
      <button
        v-for="p in pieces"
        :key="p.id"
        type="button"
        class="chip"
        :class="{ again: isAgain(p.id), spoiled: isSpoiled(p.id) }"
        :aria-pressed="choosing === 'again' ? isAgain(p.id) : isSpoiled(p.id)"
        @click="choose(p.id)"
      >
        {{ nameOf(p) }}<span v-if="isAgain(p.id)"> · again</span><span v-if="isSpoiled(p.id)"> · spoiled</span>
      </button>
    </div>
    <div v-for="(s, i) in model.spoiled" :key="s.pieceId" class="reason">
      <label :for="`why-${s.pieceId}`"
        >Why is {{ pieceOf(s.pieceId) ? nameOf(pieceOf(s.pieceId)!) : 'it' }} spoiled?</label
      >
      <input
        :id="`why-${s.pieceId}`"
        class="pick"
        list="spoil-reasons"
        maxlength="200"
        :value="s.reason"
        @input="explain(s.pieceId, ($event.target as HTMLInputElement).value)"
      />
      <p v-if="fault(`spoiled[${i}].reason`)" class="bad" role="alert">Say in a word what happened.</p>
    </div>
    <datalist id="spoil-reasons"><option v-for="r in reasons" :key="r" :value="r" /></datalist>
  </fieldset>
</template>

<style scoped>
fieldset {
  margin: 0;
  padding: 0;
  border: 0;
  display: grid;
  gap: 8px;
}
legend {
  padding: 0;
  margin-bottom: 6px;
  font-size: 14px;
  color: var(--soft);
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
.chip.spoiled {
  border-color: var(--brick);
  background: #f8e9e4;
  color: var(--brick);
}
.reason {
  display: grid;
  gap: 4px;
}
.reason label {
  font-size: 14px;
}
@media (max-width: 640px) {
  .chip {
    min-height: 48px;
  }
}
</style>
