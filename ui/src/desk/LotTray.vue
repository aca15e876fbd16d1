<script setup lang="ts">
import EmptyNote from '../shared/EmptyNote.vue'
import { duration } from '../shared/reading'
import { computed, defineAsyncComponent, ref } from 'vue'
import { useRouter } from 'vue-router'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import { dateOf, dayName, minutesBetween, moment } from '../shared/time'
import { runs, seesBusiness } from '../shared/settings'
import OrderLink from '../shared/OrderLink.vue'
import ShortRests from '../shared/ShortRests.vue'
import { useLot } from '../planning/queries'
import { hold } from '../planning/whatIf'
import { useWorkshop } from '../shared/useWorkshop'
import RiskDialog from '../batches/RiskDialog.vue'
import { useTakeUp } from '../batches/useTakeUp'
import ActRow from '../shared/ActRow.vue'
import DialogBox from '../shared/dialog'

const EarlierWays = defineAsyncComponent(() => import('../planning/EarlierWays.vue'))
const LogStepForm = defineAsyncComponent(() => import('../batches/LogStepForm.vue'))

// A lot: why its next step is when it is, whom it serves, what was and what will be.
const props = defineProps<{ id: number }>()
const emit = defineEmits<{ close: [] }>()
const { data: lot, error } = useLot(() => props.id)
const { tell, busy } = useAct()
const { takeUp, busy: taking, risk } = useTakeUp()
const logging = ref(false)
const asking = ref(false)
const { people } = useWorkshop()
const router = useRouter()
const heldBy = computed(() => people.value.find((p) => p.id === lot.value?.hold?.personId)?.name)
const holdIt = () =>
  tell(() =>
    answerOf(
      api.POST('/api/lots/{id}/hold', {
        params: { path: { id: props.id } },
        body: {
          step: next.value!.index,
          at: next.value!.start!,
          personId: people.value.find((p) => p.name === next.value!.person)?.id,
        },
      }),
    ),
  )
const letGo = () => tell(() => answerOf(api.POST('/api/lots/{id}/let-go', { params: { path: { id: props.id } } })))
// Another time is thought about on the plan, where one sees what it does.
function otherTime() {
  const { index, start, name, person } = next.value!
  hold({
    lotId: props.id,
    step: index,
    at: start!,
    personId: people.value.find((p) => p.name === person)?.id,
    said: `${name}, ${lot.value!.pieces.length} × ${lot.value!.product}`,
  })
  router.push('/plan?tray=what-if')
}
const abandoning = ref(false)

const next = computed(() => lot.value?.steps.find((s) => s.state !== 'done'))
const inHand = computed(() => next.value?.state === 'inHand')
const marks: Record<string, string> = { done: 'done', inHand: 'in hand', planned: '', tentative: '' }

// The rest after a step, as long as it is by the plan or was in fact; inside it other steps may be done.
function restOf(i: number): string {
  const [s, after] = [lot.value!.steps[i]!, lot.value!.steps.slice(i + 1).find((n) => !n.inside)]
  const least = `never under ${duration(s.rest!.floor)}`
  if (!s.end || !after?.start) return `${duration(s.rest!.usual)}, ${least}`
  return `${duration(Math.max(0, Math.round(minutesBetween(s.end, after.start))))}, ${least}`
}
const said = (because: string) => because.charAt(0).toUpperCase() + because.slice(1)

const undo = (runId: number) =>
  tell(() => answerOf(api.POST('/api/runs/{id}/undo', { params: { path: { id: runId } } })))

const keepRests = (keep: boolean) =>
  tell(() => answerOf(api.POST('/api/lots/{id}/keep-rests', { params: { path: { id: props.id } }, body: { keep } })))

async function abandon() {
  const { batchId, batchVersion } = lot.value!
  abandoning.value = false
  await tell(() =>
    answerOf(
      api.POST('/api/batches/{id}/abandon', { params: { path: { id: batchId } }, body: { version: batchVersion } }),
    ),
  )
  emit('close')
}
</script>

<template>
  <EmptyNote v-if="error">{{ error.message }} It may have been finished a while ago.</EmptyNote>
  <div v-else-if="lot" class="lot">
    <h1>{{ lot.pieces.length }} × {{ lot.product }}</h1>
    <p class="quiet">batch {{ lot.batch }}, lot {{ lot.lot }}</p>

    <template v-if="next">
      <h2>{{ inHand ? 'In hand now' : 'Next' }}: {{ next.name }}</h2>
      <p v-if="next.start && !inHand">
        <b>{{ moment(next.start, thisMinute) }}</b><template v-if="next.end">
          to {{ moment(next.end, thisMinute) }}</template
        ><template v-if="next.person">, {{ next.person }}</template>
      </p>
      <p v-if="next.because" class="quiet">Why then? {{ next.because }}.</p>
      <p v-if="lot.pressed" class="note brick">
        The rest’s latest moment falls outside working hours. Sand lightly before the next coat, or come in for it.
      </p>
      <ShortRests :rests="lot.shortRests" :keeps="lot.keepRests" :busy="busy" @keep="keepRests" />
      <p v-if="lot.hold" class="note" :class="{ brick: lot.holdBroken }">
        Held: {{ lot.steps.find((s) => s.index === lot!.hold!.step)?.name.toLowerCase() }}
        {{ moment(lot.hold.at, thisMinute) }}<template v-if="heldBy">, {{ heldBy }}</template
        ><template v-if="lot.holdBroken">. It cannot be done then, and is planned where it can.</template>
        <button v-if="runs" class="word" type="button" :disabled="busy" @click="letGo">Let it go</button>
      </p>
      <p v-if="lot.unplanned" class="note brick">No place in the plan: {{ lot.unplanned }}.</p>
      <ActRow v-if="!inHand && lot.open">
        <button class="act" type="button" :disabled="taking" @click="takeUp([{ lotId: lot.lotId, step: next.index }])">
          Take up
        </button>
        <button class="side" type="button" :aria-expanded="logging" @click="logging = !logging">
          It was done earlier
        </button>
      </ActRow>
      <p v-if="!inHand && lot.open && runs" class="words">
        <button
          v-if="next.start && !lot.hold && !next.inside"
          class="word"
          type="button"
          :disabled="busy"
          @click="holdIt"
        >
          Hold it there
        </button>
        <button v-if="next.start && !next.inside" class="word" type="button" @click="otherTime">Another time?</button>
        <button class="word" type="button" :aria-expanded="asking" @click="asking = !asking">
          What would make it earlier?
        </button>
      </p>
      <EarlierWays v-if="asking" :lot-id="lot.lotId" :said="`${lot.pieces.length} × ${lot.product}`" />
      <LogStepForm v-if="logging" :lot="lot" @saved="logging = false" />
    </template>

    <dl>
      <dt>Serves</dt>
      <dd>
        <template v-for="(s, i) in lot.serves" :key="s.orderId"
          ><template v-if="i"> · </template
          ><OrderLink :id="s.orderId" :number="s.number" :customer="s.customer"
            >{{ seesBusiness ? ' ' : ': ' }}{{ s.pieces }}</OrderLink
          ></template
        ><template v-if="lot.spare">{{ lot.serves.length ? ' · ' : '' }}shelf {{ lot.spare }}</template>
      </dd>
      <dt>Ready</dt>
      <dd>{{ lot.readyAt ? moment(lot.readyAt, thisMinute) : lot.open ? 'not known' : 'finished' }}</dd>
      <template v-if="lot.due">
        <dt>Due</dt>
        <dd>
          {{ dayName(dateOf(lot.due), dateOf(thisMinute)) }} <span v-if="lot.late" class="bad">will be missed</span>
        </dd>
      </template>
    </dl>

    <h2>Step by step</h2>
    <ol class="steps">
      <li v-for="(s, i) in lot.steps" :key="i" :class="s.state">
        <i class="drawn" />
        <div>
          <p class="line">
            <b>{{ s.name }}</b>
            <span v-if="s.start" class="when">{{ moment(s.start, thisMinute) }}</span>
          </p>
          <p v-if="marks[s.state] || s.because" class="quiet">{{ marks[s.state] || said(s.because) }}</p>
          <p v-if="s.rest" class="rest"><i class="hatch drawn" />{{ restOf(i) }}</p>
          <button v-if="s.canUndo && s.runId" class="word" type="button" :disabled="busy" @click="undo(s.runId)">
            Undo done
          </button>
        </div>
      </li>
    </ol>
    <p v-if="lot.pieces.some((p) => p.lettering)" class="quiet names">
      {{ lot.pieces.map((p) => p.lettering).join(' / ') }}
    </p>
    <p v-if="lot.open">
      <button class="word" type="button" @click="abandoning = true">Abandon batch {{ lot.batch }}</button>
    </p>
  </div>
  <RiskDialog v-if="risk" :why="risk.why" :early="risk.early" @wait="risk = null" @accept="takeUp(risk.next, true)" />
  <DialogBox v-if="abandoning" v-model="abandoning" title="Abandon this batch?" width="420">
    <p>Its pieces are put aside, and what they were for is open demand again. This cannot be undone.</p>
    <template #footer>
      <button class="side" type="button" @click="abandon">Abandon it</button>&nbsp;
      <button class="act" type="button" @click="abandoning = false">Keep it</button>
    </template>
  </DialogBox>
</template>

<style scoped>
.lot {
  display: grid;
  gap: 8px;
}
.lot h2 {
  margin-top: 10px;
}
.words {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
}
dl {
  display: grid;
  grid-template-columns: 70px 1fr;
  gap: 6px 12px;
  margin: 10px 0 0;
}
dt {
  color: var(--soft);
}
dd {
  margin: 0;
}
.steps {
  display: grid;
}
.steps li {
  display: grid;
  grid-template-columns: 16px 1fr;
  gap: 10px;
  padding: 5px 0;
}
.steps li > i {
  width: 14px;
  height: 14px;
  margin-top: 4px;
  border: 1.5px solid var(--clay);
}
.steps .done > i {
  background: var(--clay-done);
  border-color: var(--clay-done);
}
.steps .inHand > i {
  background: var(--clay);
}
.line {
  display: flex;
  gap: 12px;
  justify-content: space-between;
}
.when {
  flex: none;
}
.rest {
  display: flex;
  gap: 10px;
  align-items: center;
  margin-left: -26px;
  color: var(--night);
  font-size: 14px;
  font-weight: 600;
}
.rest .hatch {
  flex: none;
  width: 16px;
  height: 9px;
}
.names {
  overflow-wrap: anywhere;
}
</style>
