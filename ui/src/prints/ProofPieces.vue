<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import TextField from '../shared/TextField.vue'
import PrintLeaf from './PrintLeaf.vue'

// The pieces of a proof, each as it will look and with what is said of it; the same
// for the studio and for its customer, in the words of each.
type Piece = Schemas['ProofPiece']
const props = defineProps<{
  proof: Schemas['Proof']
  busy: boolean
  fault: string
  right: string
  change: string
  tell: string
  picture?: (p: Piece) => string | undefined
  // says of a piece, and tells whether that was taken
  say: (p: Piece, state: 'approved' | 'change', note: string) => Promise<boolean>
}>()
const changing = ref(0)
const note = ref('')
const look = (p: Piece) => ({ ...props.proof.looks[p.look]!, artwork: p.artwork })
async function answer(p: Piece, state: 'approved' | 'change', text = '') {
  if ((await props.say(p, state, text)) && p.wantId === changing.value) changing.value = 0
}
</script>

<template>
  <ul>
    <li v-for="(p, i) in proof.pieces" :key="p.wantId">
      <div class="leaf">
        <PrintLeaf :page="look(p)" :design="look(p).design" :words="p.path" :picture="picture?.(p)" />
      </div>
      <p class="name">{{ p.text || look(p).product }}</p>
      <slot :piece="p" :look="look(p)" />
      <form v-if="changing === p.wantId" novalidate @submit.prevent="answer(p, 'change', note)">
        <TextField v-model="note" label="What is to be changed" :rows="2" maxlength="400" :fault="fault" />
        <button class="act" type="submit" :disabled="busy">{{ tell }}</button>
      </form>
      <p v-else class="acts">
        <button
          v-if="p.state !== 'approved'"
          class="side"
          type="button"
          :disabled="busy"
          @click="answer(p, 'approved')"
        >
          {{ right }}<span class="spoken">, piece {{ i + 1 }}</span>
        </button>
        <button class="word" type="button" @click="((changing = p.wantId), (note = p.note))">
          {{ change }}<span class="spoken">, piece {{ i + 1 }}</span>
        </button>
      </p>
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(180px, 1fr));
  gap: 24px 20px;
  width: 100%;
}
li {
  display: grid;
  gap: 4px;
  align-content: start;
}
.leaf {
  height: 170px;
}
.name {
  font-weight: 650;
  white-space: pre-line;
}
li :deep(.odd),
li :deep(.change) {
  color: var(--straw);
}
li :deep(.approved) {
  color: var(--glaze);
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 12px;
  align-items: center;
}
form {
  display: grid;
  gap: 6px;
}
</style>
