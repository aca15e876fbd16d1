<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import EmptyNote from '../shared/EmptyNote.vue'
import PageHead from '../shared/PageHead.vue'
import { dateOf, dayName, moment } from '../shared/time'
import TroubleNote from '../shared/TroubleNote.vue'
import WaitingRows from '../shared/WaitingRows.vue'
import ProofPieces from './ProofPieces.vue'
import ProofAddress from './ProofAddress.vue'
import { runs } from '../shared/settings'

// An order's pieces as they will look, and what the customer said of each.
type Piece = Schemas['ProofPiece']
const route = useRoute()
const id = computed(() => Number(route.params.id))
const { data: proof, error } = useAnswer('/api/orders/{id}/proof', () => ({ path: { id: id.value } }))
const { act, busy, trouble, fault } = useAct()

const words: Record<Piece['state'], string> = {
  unshown: 'not shown yet',
  shown: 'shown',
  approved: 'approved',
  change: 'to be changed',
}
const open = computed(() => proof.value?.pieces.filter((p) => p.state !== 'approved') ?? [])
async function say(pieces: Piece[], state: 'shown' | 'approved' | 'change', text = '') {
  const answers = pieces.map((p) => ({ wantId: p.wantId, state, note: text }))
  await act(() =>
    answerOf(api.POST('/api/orders/{id}/proof', { params: { path: { id: id.value } }, body: { answers } })),
  )
  return !trouble.value
}
</script>

<template>
  <EmptyNote v-if="error && !proof">This order is not here.</EmptyNote>
  <WaitingRows v-else-if="!proof" />
  <div v-else>
    <PageHead :name="`Proof for ${proof.customer}`">
      <template #said>
        <p class="quiet">
          order {{ proof.number }}, due {{ dayName(proof.dueOn, dateOf(thisMinute)) }} ·
          {{ proof.pieces.length - open.length }} of {{ proof.pieces.length }} approved
        </p>
      </template>
      <template #acts>
        <a :href="`/api/orders/${id}/proof.pdf`" download>Proof (PDF)</a>
        <button
          class="side"
          type="button"
          :disabled="busy || !proof.pieces.some((p) => p.state === 'unshown')"
          @click="
            say(
              proof.pieces.filter((p) => p.state === 'unshown'),
              'shown',
            )
          "
        >
          It was sent
        </button>
        <button class="act" type="button" :disabled="busy || !open.length" @click="say(open, 'approved')">
          All approved
        </button>
      </template>
    </PageHead>
    <TroubleNote :trouble="trouble" />
    <ProofAddress v-if="runs" :order-id="id" />
    <ProofPieces
      v-slot="{ piece: p, look }"
      :proof="proof"
      :busy="busy"
      :fault="fault('answers[0].note')"
      :say="(p, state, text) => say([p], state, text)"
      right="Approved"
      change="Change this"
      tell="Note it"
    >
      <p v-if="look.ownPictures && !p.artwork" class="odd">its picture has not come</p>
      <p v-if="p.missing.length" class="odd">no typeface here has {{ p.missing.join(' ') }}</p>
      <p v-if="!p.fits" class="odd">the words do not fit</p>
      <p :class="p.state">
        {{ words[p.state] }}<small v-if="p.at"> {{ moment(p.at, thisMinute) }}</small>
      </p>
      <p v-if="p.note" class="note straw">{{ p.note }}</p>
    </ProofPieces>
  </div>
</template>
