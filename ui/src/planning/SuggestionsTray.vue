<script setup lang="ts">
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import ActRow from '../shared/ActRow.vue'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import EmptyNote from '../shared/EmptyNote.vue'
import { dateOf, dayName, moment } from '../shared/time'
import { say } from '../shared/toast'
import { useTray } from '../shared/tray'
import WaitingRows from '../shared/WaitingRows.vue'

// Batches suggested from open demand: what goes together, when, why, and what it saves.
type Suggestion = Schemas['Suggestion']
const { data: suggestions, error } = useAnswer('/api/suggestions', undefined, { keep: true })
const { tell, busy } = useAct()
const { open } = useTray()

const pieces = (b: Schemas['SuggestedBatch']) => b.wantIds.length + b.extras
const stopped = (s: Suggestion) => s.batches.filter((b) => b.stopped)
async function accept(s: Suggestion) {
  const batches = s.batches.map(({ productId, wantIds, extras, lots, pilot }) => ({
    productId,
    wantIds,
    extras,
    lots,
    pilot,
  }))
  const made = await tell(() => answerOf(api.POST('/api/suggestions/accept', { body: { batches } })))
  if (!made) return
  const numbers = made.numbers.join(', ')
  say({ text: `${made.numbers.length === 1 ? 'Batch' : 'Batches'} ${numbers} made up. Their steps are on the plan.` })
}
async function dismiss(s: Suggestion) {
  const body = { key: s.key }
  await tell(() => answerOf(api.POST('/api/suggestions/dismiss', { body })))
  const undo = () => tell(() => answerOf(api.POST('/api/suggestions/recall', { body })))
  say({ text: 'Left out until other pieces are wanted.', action: 'Undo', act: undo })
}
</script>

<template>
  <div class="suggestions">
    <h1>Batches suggested</h1>
    <p v-if="error" class="bad">{{ error.message }}</p>
    <WaitingRows v-else-if="!suggestions" :rows="4" />
    <EmptyNote v-else-if="suggestions.length === 0">
      Nothing is wanted that is not made up into a batch. What orders want next is suggested here.
    </EmptyNote>
    <ul v-else>
      <li v-for="s in suggestions" :key="s.key">
        <h2>
          <template v-for="(b, i) in s.batches" :key="b.productId"
            >{{ i ? ' + ' : '' }}{{ pieces(b) }} × {{ b.product }}</template
          >
        </h2>
        <p class="quiet">
          <template v-if="s.dueOn">first due {{ dayName(s.dueOn, dateOf(thisMinute)) }}</template
          ><template v-if="s.startAt">, begun {{ moment(s.startAt, thisMinute) }} by the plan</template>
        </p>
        <ul class="reasons">
          <li v-for="r in s.reasons" :key="r">{{ r }}</li>
        </ul>
        <p v-for="b in stopped(s)" :key="b.productId" class="note brick">
          {{ b.product }}: {{ b.stopped }}
          <RouterLink :to="`/products/${b.productId}`">Mend it, or overrule it</RouterLink>
        </p>
        <ActRow>
          <button class="act" type="button" :disabled="busy || stopped(s).length > 0" @click="accept(s)">
            {{ s.batches.length === 1 ? 'Make it up' : 'Make them up' }}
          </button>
          <button class="side" type="button" :disabled="busy" @click="dismiss(s)">
            Not so<span class="spoken">: {{ s.batches.map((b) => b.product).join(', ') }}</span>
          </button>
        </ActRow>
        <p class="change">
          <span class="quiet">Change:</span>
          <button
            v-for="b in s.batches"
            :key="b.productId"
            class="word"
            type="button"
            @click="open('new-batch', b.productId)"
          >
            {{ b.product }}
          </button>
        </p>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.suggestions {
  overflow-wrap: anywhere;
  display: grid;
  gap: 12px;
}
.suggestions > ul {
  display: grid;
  gap: 16px;
}
.suggestions > ul > li {
  display: grid;
  gap: 6px;
  padding-top: 10px;
  border-top: 1px solid var(--edge);
}
.reasons {
  display: grid;
  gap: 4px;
  padding-left: 14px;
  border-left: 3px solid var(--glaze);
}
.change {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  align-items: center;
}
</style>
