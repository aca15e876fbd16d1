<script setup lang="ts">
import TroubleNote from '../shared/TroubleNote.vue'
import { computed, ref } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { now } from '../shared/clock'
import { personId } from '../shared/settings'
import { dateOf, momentIn, timeOn } from '../shared/time'
import EarlierTime from './EarlierTime.vue'
import OutcomePicker from './OutcomePicker.vue'
import { allGood } from './outcomes'
import { isRisk } from './useTakeUp'

// A step that nobody took up when it was done, entered with its true times.
const props = defineProps<{ lot: Schemas['LotPage'] }>()
const emit = defineEmits<{ saved: [] }>()
const { act, busy, trouble, fault } = useAct()

const at = (t: number) => ({ date: dateOf(t), time: timeOn(t) })
const began = ref(at(now.value - props.lot.minutes * 60000))
const ended = ref(at(now.value))
const outcomes = ref(allGood())
const risky = computed(() => isRisk(trouble.value?.type))
const short = computed(() => trouble.value?.type === '/problems/short')
const long = computed(() => trouble.value?.type === '/problems/long-step')
// What was accepted stays so for the next question.
const accepted = ref({ acceptRisk: false, acceptShort: false, acceptLong: false })

async function save(also: Partial<typeof accepted.value> = {}) {
  accepted.value = { ...accepted.value, ...also }
  await act(() =>
    answerOf(
      api.POST('/api/lots/{id}/log', {
        params: { path: { id: props.lot.lotId } },
        body: {
          personId: personId.value,
          step: props.lot.step,
          startedAt: momentIn(began.value.date, began.value.time).toISOString(),
          endedAt: momentIn(ended.value.date, ended.value.time).toISOString(),
          ...outcomes.value,
          ...accepted.value,
        },
      }),
    ),
  )
  if (!trouble.value) emit('saved')
}
</script>

<template>
  <form class="log" @submit.prevent="save()">
    <EarlierTime v-model="began" label="Begun at" :fault="fault('startedAt')" />
    <EarlierTime v-model="ended" label="Done at" :fault="fault('endedAt')" />
    <OutcomePicker v-model="outcomes" :pieces="lot.pieces" :may="lot.outcomes" :fault="fault" />
    <TroubleNote :trouble="trouble" />
    <button v-if="risky" class="side" type="button" :disabled="busy" @click="save({ acceptRisk: true })">
      It was so: I accept the risk
    </button>
    <button v-else-if="short" class="side" type="button" :disabled="busy" @click="save({ acceptShort: true })">
      It was there: put the stores right
    </button>
    <button v-else-if="long" class="side" type="button" :disabled="busy" @click="save({ acceptLong: true })">
      It was so long
    </button>
    <button v-else class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'Enter it' }}</button>
  </form>
</template>

<style scoped>
.log {
  display: grid;
  gap: 10px;
  padding: 12px;
  border: 1px solid var(--line);
  background: var(--paper);
}
</style>
