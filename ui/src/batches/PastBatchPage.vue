<script setup lang="ts">
import EmptyNote from '../shared/EmptyNote.vue'
import TroubleNote from '../shared/TroubleNote.vue'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useAnswer } from '../api/answers'
import { answerOf, api } from '../api/client'
import EarlierTime from './EarlierTime.vue'
import { isRisk } from './useTakeUp'
import { useAct } from '../shared/act'
import { now } from '../shared/clock'
import { personId } from '../shared/settings'
import TextField from '../shared/TextField.vue'
import TickBox from '../shared/TickBox.vue'
import { dateOf, momentIn } from '../shared/time'
import { say } from '../shared/toast'
import { useWorkshop } from '../shared/useWorkshop'
import PastSteps from './PastSteps.vue'
import { doneBy, rowsOf, stepBody, type PastRow } from './pastSteps'
import PageHead from '../shared/PageHead.vue'
import PickField from '../shared/PickField.vue'

// A batch that was made, or begun, before it was entered: all its steps on one page.
const router = useRouter()
const { people } = useWorkshop()
const { act, refuse, busy, trouble, fault } = useAct()
const proposing = useAct()
const { data: demand } = useAnswer('/api/demand')

const productId = ref(0)
const pieces = ref(1)
const unnamed = ref<number[]>([]) // wants of names that were not in this batch
const worker = ref(0)
const weekAgo = now.value - 7 * 24 * 3600000
const begun = ref({ date: dateOf(weekAgo), time: '09:00' })
const rows = ref<PastRow[]>([])
const done = ref(0)

const choice = computed(() => demand.value?.find((d) => d.productId === productId.value))
watch(demand, (all) => (productId.value ||= all?.[0]?.productId ?? 0), { immediate: true })
watch(personId, (id) => (worker.value ||= id), { immediate: true })
watch(productId, () => {
  rows.value = []
  unnamed.value = []
})
const wants = computed(() => {
  const open = choice.value?.wants ?? []
  if (choice.value?.lettered) return open.filter((w) => !unnamed.value.includes(w.wantId))
  return open.slice(0, Math.max(0, pieces.value))
})
const total = computed(() => (choice.value?.lettered ? wants.value.length : pieces.value))
const names = computed(() => (choice.value?.lettered ? wants.value.map((w) => w.lettering || 'no name') : []))
watch(total, () => {
  for (const r of rows.value) r.lost = r.lost.filter((n) => n <= total.value)
})

async function propose() {
  if (!begun.value.time) return proposing.refuse('begunAt', 'say at what time')
  const begunAt = momentIn(begun.value.date, begun.value.time).toISOString()
  const times = await proposing.act(() =>
    answerOf(
      api.POST('/api/past-batches/times', { body: { productId: productId.value, pieces: total.value, begunAt } }),
    ),
  )
  if (!times) return
  rows.value = rowsOf(times.steps)
  done.value = doneBy(rows.value, now.value)
}

const risky = computed(() => isRisk(trouble.value?.type))
const short = computed(() => trouble.value?.type === '/problems/short')
const accepted = ref({ acceptRisk: false, acceptShort: false })
async function save(also: Partial<typeof accepted.value> = {}) {
  const timeless = rows.value.findIndex((r, i) => i < done.value && !r.time)
  if (timeless >= 0) return refuse(`steps[${timeless}].startedAt`, 'say when it was begun')
  accepted.value = { ...accepted.value, ...also }
  const made = await act(() =>
    answerOf(
      api.POST('/api/past-batches', {
        body: {
          productId: productId.value,
          wantIds: wants.value.map((w) => w.wantId),
          extras: total.value - wants.value.length,
          personId: worker.value,
          steps: rows.value.slice(0, done.value).map(stepBody),
          ...accepted.value,
        },
      }),
    ),
  )
  if (!made) return
  say({ text: `Batch ${made.number} is entered.` })
  await router.push(done.value === rows.value.length ? `/notebook/batches?tray=batch:${made.id}` : '/plan')
}
</script>

<template>
  <PageHead name="A batch made before">
    <RouterLink class="word" to="/notebook/batches">Past batches</RouterLink>
  </PageHead>
  <EmptyNote v-if="demand?.length === 0">
    Nothing is made here yet. <RouterLink to="/products/new">Make the first product</RouterLink>.
  </EmptyNote>
  <form v-else-if="choice" novalidate @submit.prevent="propose">
    <div class="facts">
      <PickField
        v-model="productId"
        label="Of"
        :fault="fault('productId')"
        :choices="demand?.map((d) => ({ value: d.productId, name: d.productName }))"
      />
      <TextField
        v-if="!choice.lettered"
        v-model="pieces"
        numeric
        label="Pieces started"
        :fault="proposing.fault('pieces') || fault('extras')"
        maxlength="3"
      />
      <EarlierTime v-model="begun" label="Begun" :fault="proposing.fault('begunAt')" />
      <PickField
        v-model="worker"
        label="By"
        :fault="fault('personId')"
        :choices="people.map((p) => ({ value: p.id, name: p.name }))"
      />
    </div>
    <fieldset v-if="choice.lettered">
      <legend>Which names</legend>
      <p v-if="choice.wants.length === 0" class="quiet">
        Every {{ choice.productName }} carries a name, and none is waiting to be made. Take its order first.
      </p>
      <TickBox
        v-for="w in choice.wants"
        :key="w.wantId"
        small
        :model-value="!unnamed.includes(w.wantId)"
        @update:model-value="
          unnamed = unnamed.includes(w.wantId) ? unnamed.filter((id) => id !== w.wantId) : [...unnamed, w.wantId]
        "
        >{{ w.lettering || 'no name' }} <span class="quiet">{{ w.customer }}</span></TickBox
      >
    </fieldset>
    <p v-else-if="wants.length" class="quiet">
      {{
        total > wants.length
          ? `${wants.length} of them for orders that wait, ${total - wants.length} for the shelf or lost.`
          : 'For orders that wait.'
      }}
    </p>
    <p v-if="proposing.trouble.value" class="bad" role="alert">{{ proposing.trouble.value.message }}</p>
    <button
      :class="rows.length ? 'side' : 'act'"
      type="submit"
      :disabled="proposing.busy.value || !(total >= 1 && total <= 500)"
    >
      {{ rows.length ? 'Work the times out again' : 'Work out when each step was' }}
    </button>
  </form>
  <form v-if="rows.length" novalidate @submit.prevent="save()">
    <PastSteps v-model="rows" v-model:done="done" :pieces="total" :names="names" :fault="fault" />
    <div class="end">
      <p class="quiet">
        Materials are taken out of the stores as the recipe has it; what was counted since is not taken again.
      </p>
      <TroubleNote :trouble="trouble" whole />
      <button v-if="risky" class="side" type="button" :disabled="busy" @click="save({ acceptRisk: true })">
        It was so: the rest was short
      </button>
      <button v-else-if="short" class="side" type="button" :disabled="busy" @click="save({ acceptShort: true })">
        It was there: put the stores right
      </button>
      <button v-else class="act" type="submit" :disabled="busy || done === 0">
        {{
          busy ? 'Saving' : done === rows.length ? 'Enter the batch' : `Enter it, ${done} of ${rows.length} steps done`
        }}
      </button>
    </div>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 12px;
  justify-items: start;
  margin-bottom: 20px;
}
.facts {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
  gap: 12px;
  width: 100%;
}
.end {
  display: grid;
  gap: 10px;
  justify-items: start;
}
</style>
