<script setup lang="ts">
import TroubleNote from '../shared/TroubleNote.vue'
import TickBox from '../shared/TickBox.vue'
import { duration } from '../shared/reading'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import AskDialog from '../shared/AskDialog.vue'
import { useAct } from '../shared/act'
import { now } from '../shared/clock'
import { dateOf, dayName, momentIn, stopwatch, timeOn } from '../shared/time'
import { say } from '../shared/toast'
import { useTray } from '../shared/tray'
import ShortDialog from './ShortDialog.vue'
import OutcomePicker from './OutcomePicker.vue'
import { allGood } from './outcomes'
import { isRisk } from './useTakeUp'
import { useTicks } from './useTicks'

// Days and times are picked when they are asked for: no page has to wait for that.
const EarlierTime = defineAsyncComponent(() => import('./EarlierTime.vue'))

// What is in hand: the timer, the checklist, the cautions, and how the pieces come out.
const props = defineProps<{ work: Schemas['InHand']; mine: boolean }>()
const { act, refuse, tell, busy, trouble, fault } = useAct()
const { open } = useTray()

const { ticked, toggle, saved } = useTicks(() => props.work)
const outcomes = ref(allGood())
const earlier = ref(false)
const at = (t: number) => ({ date: dateOf(t), time: timeOn(t) })
const began = ref(at(now.value))
const ended = ref(at(now.value))
const said = (at: { date: string; time: string }) => at.date !== '' && at.time !== ''
const momentOf = (at: { date: string; time: string }) => momentIn(at.date, at.time).getTime()
// What was done before it was taken up was taken up by mistake: it was begun earlier too.
// A clock time is to the minute, and the minute it was taken up in is not before.
const started = computed(() => Date.parse(props.work.startedAt))
const before = computed(
  () => earlier.value && said(ended.value) && momentOf(ended.value) < Math.floor(started.value / 60_000) * 60_000,
)
watch(
  [before, ended],
  () => {
    if (before.value) began.value = at(momentOf(ended.value) - props.work.minutes * 60_000)
  },
  { deep: true },
)
function askWhen() {
  earlier.value = !earlier.value
  ended.value = at(now.value)
}

const running = computed(() => props.work.runningSince !== undefined)
const seconds = computed(
  () =>
    props.work.workedSeconds + (props.work.runningSince ? (now.value - Date.parse(props.work.runningSince)) / 1000 : 0),
)
const rest = computed(() => (props.work.rest ? `, rest ${duration(props.work.rest.usual)}` : ''))

const path = computed(() => ({ params: { path: { id: props.work.runId } } }))

const putDown = () => tell(() => answerOf(api.POST('/api/runs/{id}/put-down', path.value)))
const resume = () => tell(() => answerOf(api.POST('/api/runs/{id}/resume', path.value)))
const giveBack = () => tell(() => answerOf(api.POST('/api/runs/{id}/give-back', path.value)))

const short = ref('')
const long = ref('')
// What was accepted stays so for the next question.
let accepted = { acceptShort: false, acceptLong: false, acceptRisk: false }
const risk = ref('')
async function done(also: Partial<typeof accepted> = {}) {
  accepted = { ...accepted, ...also }
  short.value = long.value = risk.value = ''
  await saved()
  const { runId, stepName } = props.work
  const { acceptRisk, ...accept } = accepted
  if (earlier.value && !said(ended.value)) return refuse('endedAt', 'say on what day and when it was done')
  if (before.value && !said(began.value)) return refuse('startedAt', 'say on what day and when it was begun')
  const end = before.value ? momentOf(ended.value) : Math.max(started.value, momentOf(ended.value))
  const endedAt = earlier.value ? new Date(end).toISOString() : undefined
  const body = { endedAt, ...outcomes.value, ...accept }
  await act(() =>
    before.value
      ? answerOf(
          api.POST('/api/runs/{id}/done-before', {
            ...path.value,
            body: { ...body, startedAt: new Date(momentOf(began.value)).toISOString(), acceptRisk },
          }),
        )
      : answerOf(api.POST('/api/runs/{id}/done', { ...path.value, body })),
  )
  if (trouble.value?.type === '/problems/short') {
    short.value = trouble.value.message
    trouble.value = null
  } else if (trouble.value?.type === '/problems/long-step') {
    long.value = trouble.value.message
    trouble.value = null
  } else if (isRisk(trouble.value?.type)) {
    risk.value = trouble.value!.message
    trouble.value = null
  }
  if (trouble.value || short.value || long.value || risk.value) return
  const undo = () => tell(() => answerOf(api.POST('/api/runs/{id}/undo', { params: { path: { id: runId } } })))
  say({ text: `${stepName}: done.`, action: 'Undo', act: undo })
}
function sayWhen() {
  long.value = ''
  if (!earlier.value) askWhen()
}
</script>

<template>
  <article class="card" :aria-label="`In hand: ${work.stepName}`">
    <p class="quiet">In hand · {{ work.person }}{{ running ? '' : ' · put down' }}</p>
    <h2>
      <button class="title" type="button" @click="open('lot', work.lotId)">{{ work.stepName }}</button>
    </h2>
    <p class="what">
      {{ work.pieces.length }} × {{ work.product }} ·
      <button class="word" type="button" @click="open('batch', work.batchId)">batch {{ work.batch }}</button>, lot
      {{ work.lot }}<template v-if="work.pilot"> · pilot</template>
    </p>
    <p class="clockline">
      <span class="timer" role="timer" :aria-label="`worked ${duration(seconds / 60)}`">{{ stopwatch(seconds) }}</span>
      <span class="quiet">
        of {{ duration(work.minutes) }}<template v-if="work.for.length"> · for {{ work.for.join(', ') }}</template
        ><template v-if="work.due">, due {{ dayName(dateOf(work.due), dateOf(now)) }}</template>
      </span>
    </p>
    <p v-if="work.riskMinutes" class="note brick">
      Begun {{ duration(work.riskMinutes) }} under the rest’s floor, at accepted risk.
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
    <OutcomePicker v-model="outcomes" :pieces="work.pieces" :may="work.outcomes" :fault="fault" />
    <ShortDialog v-if="short" :why="short" @wait="short = ''" @accept="done({ acceptShort: true })" />
    <AskDialog v-if="long" title="Was it so long?" :why="long" @wait="long = ''">
      <template #acts>
        <button class="side" type="button" @click="done({ acceptLong: true })">It was so long</button>
        <button class="act" type="button" @click="sayWhen">Say when it was done</button>
      </template>
    </AskDialog>
    <AskDialog v-if="risk" title="Was it begun so early?" :why="risk" @wait="risk = ''">
      <template #acts>
        <button class="side" type="button" @click="done({ acceptRisk: true })">It was so: I accept the risk</button>
        <button class="act" type="button" @click="risk = ''">Say when it was begun</button>
      </template>
    </AskDialog>
    <EarlierTime v-if="before" v-model="began" label="It was begun at" :fault="fault('startedAt')" />
    <EarlierTime v-if="earlier" v-model="ended" label="It was done at" :fault="fault('endedAt')" />
    <p v-if="before" class="quiet">Before it was taken up: the timer is left out of the count.</p>
    <TroubleNote :trouble="trouble" />
    <div class="acts">
      <button class="act" type="button" :disabled="busy" :data-key="mine ? 'done' : undefined" @click="done()">
        {{ busy ? 'Saving' : `Done${rest}` }}
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
      <RouterLink class="word" :to="`/notebook?product=${work.productId}`">Something looks wrong?</RouterLink>
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
  cursor: pointer;
}
.title:hover {
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
