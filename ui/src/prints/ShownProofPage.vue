<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import EmptyNote from '../shared/EmptyNote.vue'
import TroubleNote from '../shared/TroubleNote.vue'
import WaitingRows from '../shared/WaitingRows.vue'
import ProofPieces from './ProofPieces.vue'

// An order's pieces as they will look, for its customer, who says of each whether it is right.
type Piece = Schemas['ProofPiece']
const route = useRoute()
const token = computed(() => String(route.params.token))
const at = () => ({ path: { token: token.value } })
const { data: proof, error } = useAnswer('/api/proofs/{token}', at)
const { act, busy, trouble, fault } = useAct()

const picture = (p: Piece) =>
  p.artwork?.view ? `/api/proofs/${token.value}/looks/${p.look}/pictures/${p.artwork.id}` : undefined
const open = computed(() => proof.value?.pieces.filter((p) => p.state !== 'approved') ?? [])
async function say(pieces: Piece[], state: 'approved' | 'change', text = '') {
  const answers = pieces.map((p) => ({ wantId: p.wantId, state, note: text }))
  await act(() => answerOf(api.POST('/api/proofs/{token}', { params: at(), body: { answers } })))
  return !trouble.value
}
</script>

<template>
  <main id="page" class="shown">
    <template v-if="error && !proof">
      <h1>Nothing is here</h1>
      <EmptyNote>This address shows nothing any more. Ask the studio for the one that holds now.</EmptyNote>
    </template>
    <WaitingRows v-else-if="!proof" />
    <template v-else>
      <h1>So your pieces will look</h1>
      <p class="quiet">
        Order {{ proof.number }}. Look at each name letter by letter: it is made as it stands here. Colours on a screen
        differ a little from print on wood, glass or stone.
      </p>
      <TroubleNote :trouble="trouble" />
      <p v-if="!open.length" class="note">You have said that all is right. Thank you: it will be made so.</p>
      <button v-else class="act" type="button" :disabled="busy" @click="say(open, 'approved')">
        {{ proof.pieces.length > 1 ? 'All of it is right' : 'It is right' }}
      </button>
      <ProofPieces
        v-slot="{ piece: p }"
        :proof="proof"
        :busy="busy"
        :fault="fault('answers[0].note')"
        :picture="picture"
        :say="(p, state, text) => say([p], state, text)"
        right="It is right"
        change="Change something"
        tell="Tell the studio"
      >
        <p v-if="p.state === 'approved'" class="approved">right</p>
        <p v-if="p.state === 'change'" class="change">to be changed: {{ p.note }}</p>
      </ProofPieces>
    </template>
  </main>
</template>

<style scoped>
.shown {
  display: grid;
  gap: 12px;
  max-width: 900px;
  margin: 0 auto;
  padding: 24px 20px 60px;
  justify-items: start;
}
@media (max-width: 640px), (pointer: coarse) {
  .shown :deep(button) {
    min-height: 48px;
  }
}
</style>
