<script setup lang="ts">
import TroubleNote from '../shared/TroubleNote.vue'
import TickBox from '../shared/TickBox.vue'
import { duration } from '../shared/reading'
import { computed, defineAsyncComponent } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import AskDialog from '../shared/AskDialog.vue'
import { now } from '../shared/clock'
import { dateOf, dayName, stopwatch } from '../shared/time'
import { useTray } from '../shared/tray'
import LotCameOut from './LotCameOut.vue'
import ShortDialog from './ShortDialog.vue'
import OutcomePicker from './OutcomePicker.vue'
import { useDone } from './useDone'
import { useTicks } from './useTicks'

// Days and times are picked when they are asked for: no page has to wait for that.
const EarlierTime = defineAsyncComponent(() => import('./EarlierTime.vue'))

// What is in hand, one lot or a sitting of several: one timer, one checklist, the
// cautions, and how the pieces of each lot come out.
const props = defineProps<{ work: Schemas['InHand']; mine: boolean }>()
const { open } = useTray()

const { ticked, toggle, saved } = useTicks(() => props.work)
const { outcomes, earlier, began, ended, before, askWhen, asked, done, sayWhen, tell, busy, trouble, fault } = useDone(
  () => props.work,
  saved,
)

// alone is the lot that is in hand by itself.
const alone = computed(() => (props.work.lots.length === 1 ? props.work.lots[0]! : null))
const named = computed(() => props.work.lots.some((l) => l.stepName !== props.work.stepName))
const running = computed(() => props.work.runningSince !== undefined)
const seconds = computed(
  () =>
    props.work.workedSeconds + (props.work.runningSince ? (now.value - Date.parse(props.work.runningSince)) / 1000 : 0),
)
const doneWord = computed(() => {
  if (alone.value) return alone.value.rest ? `Done, rest ${duration(alone.value.rest.usual)}` : 'Done'
  return props.work.lots.some((l) => l.rest) ? 'Done, all of them: rests begin' : 'Done, all of them'
})
const faultOf = (i: number) =>
  alone.value && props.work.sittingId === undefined ? fault : (f: string) => fault(`lots[${i}].${f}`)

const both = computed(() => ({
  run: { params: { path: { id: props.work.lots[0]!.runId } } },
  sitting: props.work.sittingId === undefined ? null : { params: { path: { id: props.work.sittingId } } },
}))
const putDown = () =>
  tell(() =>
    answerOf(
      both.value.sitting
        ? api.POST('/api/sittings/{id}/put-down', both.value.sitting)
        : api.POST('/api/runs/{id}/put-down', both.value.run),
    ),
  )
const resume = () =>
  tell(() =>
    answerOf(
      both.value.sitting
        ? api.POST('/api/sittings/{id}/resume', both.value.sitting)
        : api.POST('/api/runs/{id}/resume', both.value.run),
    ),
  )
const giveBack = () =>
  tell(() =>
    answerOf(
      both.value.sitting
        ? api.POST('/api/sittings/{id}/give-back', both.value.sitting)
        : api.POST('/api/runs/{id}/give-back', both.value.run),
    ),
  )
const putDownLot = (runId: number) =>
  tell(() => answerOf(api.POST('/api/runs/{id}/put-down', { params: { path: { id: runId } } })))
</script>

<template>
  <article class="card" :aria-label="`In hand: ${work.stepName}`">
    <p class="quiet">
      In hand · {{ work.person }}<template v-if="!alone"> · one sitting of {{ work.lots.length }} lots</template
      >{{ running ? '' : ' · put down' }}
    </p>
    <h2>
      <button v-if="alone" class="title" type="button" @click="open('lot', alone.lotId)">{{ work.stepName }}</button>
      <span v-else class="title">{{ work.stepName }}</span>
    </h2>
    <p v-if="alone" class="what">
      {{ alone.pieces.length }} × {{ alone.product }} ·
      <button class="word" type="button" @click="open('batch', alone.batchId)">batch {{ alone.batch }}</button>, lot
      {{ alone.lot }}<template v-if="alone.pilot"> · pilot</template>
    </p>
    <p class="clockline">
      <span class="timer" role="timer" :aria-label="`worked ${duration(seconds / 60)}`">{{ stopwatch(seconds) }}</span>
      <span v-if="alone" class="quiet">
        of {{ duration(work.minutes) }}<template v-if="alone.for?.length"> · for {{ alone.for.join(', ') }}</template
        ><template v-if="alone.due">, due {{ dayName(dateOf(alone.due), dateOf(now)) }}</template>
      </span>
      <span v-else class="quiet">of {{ duration(work.minutes) }} for {{ work.pieces }} pieces; set-up paid once</span>
    </p>
    <p v-if="alone?.riskMinutes" class="note brick">
      Begun {{ duration(alone.riskMinutes) }} under the rest’s floor, at accepted risk.
    </p>
    <div v-if="work.cautions.length" class="note cautions">
      <p v-for="c in work.cautions" :key="c">{{ c }}</p>
      <p class="quiet">Follow the label and the safety data sheet; local codes and licensed practice come first.</p>
    </div>
    <ul class="checklist">
      <li v-for="(point, i) in work.checklist" :key="point">
        <TickBox :model-value="ticked.has(i)" @update:model-value="toggle(i)">{{ point }}</TickBox>
      </li>
    </ul>
    <OutcomePicker
      v-if="alone"
      v-model="outcomes[alone.runId]!"
      :pieces="alone.pieces"
      :may="alone.outcomes"
      :fault="faultOf(0)"
    />
    <div v-else>
      <p class="quiet">How did they come out?</p>
      <ul class="lots">
        <LotCameOut
          v-for="(lot, i) in work.lots"
          :key="lot.runId"
          v-model="outcomes[lot.runId]!"
          :lot="lot"
          :named="named"
          :busy="busy"
          :fault="faultOf(i)"
          @put-down="putDownLot(lot.runId)"
        />
      </ul>
    </div>
    <ShortDialog
      v-if="asked?.kind === 'short'"
      :why="asked.why"
      @wait="asked = null"
      @accept="done({ acceptShort: true })"
    />
    <AskDialog v-if="asked?.kind === 'long'" title="Was it so long?" :why="asked.why" @wait="asked = null">
      <template #acts>
        <button class="side" type="button" @click="done({ acceptLong: true })">It was so long</button>
        <button class="act" type="button" @click="sayWhen">Say when it was done</button>
      </template>
    </AskDialog>
    <AskDialog v-if="asked?.kind === 'risk'" title="Was it begun so early?" :why="asked.why" @wait="asked = null">
      <template #acts>
        <button class="side" type="button" @click="done({ acceptRisk: true })">It was so: I accept the risk</button>
        <button class="act" type="button" @click="asked = null">Say when it was begun</button>
      </template>
    </AskDialog>
    <EarlierTime v-if="before" v-model="began" label="It was begun at" :fault="fault('startedAt')" />
    <EarlierTime v-if="earlier" v-model="ended" label="It was done at" :fault="fault('endedAt')" />
    <p v-if="before" class="quiet">Before it was taken up: the timer is left out of the count.</p>
    <TroubleNote :trouble="trouble" />
    <div class="acts">
      <button class="act" type="button" :disabled="busy" :data-key="mine ? 'done' : undefined" @click="done()">
        {{ busy ? 'Saving' : doneWord }}
      </button>
      <button
        v-if="running"
        class="side"
        type="button"
        :disabled="busy"
        :data-key="mine ? 'take' : undefined"
        @click="putDown"
      >
        Put down
      </button>
      <button v-else class="side" type="button" :disabled="busy" :data-key="mine ? 'take' : undefined" @click="resume">
        Go on
      </button>
    </div>
    <p class="words">
      <button class="word" type="button" :aria-expanded="earlier" @click="askWhen">
        {{ earlier ? 'It is done now' : 'It was done earlier' }}
      </button>
      <button class="word" type="button" :disabled="busy" @click="giveBack">Give back</button>
      <RouterLink class="word" :to="`/notebook?product=${work.lots[0]!.productId}`">Something looks wrong?</RouterLink>
    </p>
  </article>
</template>

<style scoped>
.cautions {
  display: grid;
  gap: 6px;
}
.cautions .quiet {
  color: inherit;
}
.card {
  display: grid;
  gap: 10px;
  padding: 14px 18px 16px;
  background: var(--sheet);
  border: 1px solid var(--line);
  border-top: 5px solid var(--clay);
}
.title {
  padding: 0;
  border: 0;
  background: none;
  font: 650 23px/1.15 var(--heading);
  letter-spacing: -0.01em;
  text-align: left;
}
button.title {
  cursor: pointer;
}
button.title:hover {
  text-decoration: underline;
  text-decoration-thickness: 1px;
}
.what {
  font-size: 16px;
  margin-top: -6px;
}
.clockline {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 14px;
}
.timer {
  font: 700 44px/1 var(--heading);
  letter-spacing: -0.02em;
  font-variant-numeric: tabular-nums;
}
.acts {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 10px;
}
.acts button {
  min-height: 46px;
}
.words {
  display: flex;
  gap: 20px;
}
@media (max-width: 640px), (pointer: coarse) {
  .title {
    min-height: 48px;
  }
  .words {
    flex-wrap: wrap;
    gap: 0 20px;
  }
  /* the next act stays under the thumb, however long the checklist */
  .acts {
    position: sticky;
    bottom: 0;
    z-index: 1;
    margin: 0 -18px;
    padding: 8px 18px;
    border-top: 1px solid var(--line);
    background: var(--sheet);
  }
  .acts button {
    min-height: 56px;
  }
}
@media (max-width: 640px) {
  .acts {
    bottom: 56px;
  }
}
</style>
