<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import EmptyNote from '../shared/EmptyNote.vue'
import PageHead from '../shared/PageHead.vue'
import TextField from '../shared/TextField.vue'
import { dateOf, dayName, moment } from '../shared/time'
import TroubleNote from '../shared/TroubleNote.vue'
import WaitingRows from '../shared/WaitingRows.vue'
import PrintLeaf from './PrintLeaf.vue'

// An order's pieces as they will look, and what the customer said of each.
type Piece = Schemas['ProofPiece']
const route = useRoute()
const id = computed(() => Number(route.params.id))
const { data: proof, error } = useAnswer('/api/orders/{id}/proof', () => ({ path: { id: id.value } }))
const { act, busy, trouble, fault } = useAct()
const changing = ref(0)
const note = ref('')

const look = (p: Piece) => ({ ...proof.value!.looks[p.look]!, artwork: p.artwork })
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
  const answered = state !== 'shown' && pieces.some((p) => p.wantId === changing.value)
  if (!trouble.value && answered) changing.value = 0
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
    <ul class="pieces">
      <li v-for="(p, i) in proof.pieces" :key="p.wantId">
        <div class="leaf"><PrintLeaf :page="look(p)" :design="look(p).design" :words="p.path" /></div>
        <p class="name">{{ p.text || look(p).product }}</p>
        <p v-if="look(p).ownPictures && !p.artwork" class="odd">its picture has not come</p>
        <p v-if="p.missing.length" class="odd">no typeface here has {{ p.missing.join(' ') }}</p>
        <p v-if="!p.fits" class="odd">the words do not fit</p>
        <p :class="p.state">
          {{ words[p.state] }}<small v-if="p.at"> {{ moment(p.at, thisMinute) }}</small>
        </p>
        <p v-if="p.note" class="note straw">{{ p.note }}</p>
        <form v-if="changing === p.wantId" novalidate @submit.prevent="say([p], 'change', note)">
          <TextField
            v-model="note"
            label="What is to be changed"
            :rows="2"
            maxlength="400"
            :fault="fault('answers[0].note')"
          />
          <button class="act" type="submit" :disabled="busy">Note it</button>
        </form>
        <p v-else class="acts">
          <button
            v-if="p.state !== 'approved'"
            class="side"
            type="button"
            :disabled="busy"
            @click="say([p], 'approved')"
          >
            Approved<span class="spoken">, piece {{ i + 1 }}</span>
          </button>
          <button class="word" type="button" @click="((changing = p.wantId), (note = p.note))">
            Change this<span class="spoken">, piece {{ i + 1 }}</span>
          </button>
        </p>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.pieces {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(180px, 1fr));
  gap: 24px 20px;
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
.odd,
.change {
  color: var(--straw);
}
.approved {
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
