<script setup lang="ts">
import TroubleNote from '../shared/TroubleNote.vue'
import TickBox from '../shared/TickBox.vue'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useAnswer } from '../api/answers'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import { now } from '../shared/clock'
import { dateOf, dayName } from '../shared/time'
import { say } from '../shared/toast'
import MoveList from '../planning/MoveList.vue'
import OveragePanel from './OveragePanel.vue'
import { freePrints, splitLots } from './lots'
import { useBatchAsk } from './useBatchAsk'
import FootedForm from '../shared/FootedForm.vue'
import PickField from '../shared/PickField.vue'
import TextField from '../shared/TextField.vue'

// Open demand of one product becomes a batch. id is the product, or 0.
const props = defineProps<{ id: number }>()
const router = useRouter()
const route = useRoute()
// The order that it is made up for, if it is for one: its pieces come first, and only they to begin with.
const forOrder = computed(() => Number(route.query.for) || 0)
const { act, busy, trouble, fault } = useAct()
const { data: demand } = useAnswer('/api/demand')

// A batch holds at most this many; more demand makes more batches.
const mostPieces = 500
const productId = ref(props.id)
const started = ref(0)
const pilot = ref(false)
const lotsText = ref('')

const choice = computed(() => demand.value?.find((d) => d.productId === productId.value))
watch(
  demand,
  (all) => {
    if (!choice.value && all) productId.value = (all.find((d) => d.wants.length > 0) ?? all[0])?.productId ?? 0
  },
  { immediate: true },
)
// The proposal is taken over when the product, or what is open of it, changes.
watch(
  () => (choice.value ? `${choice.value.productId}:${choice.value.wants.length}` : ''),
  () => {
    const own = (choice.value?.wants ?? []).filter((w) => w.orderId === forOrder.value).length
    const all = (choice.value?.wants.length ?? 0) + (choice.value?.extras ?? 0)
    started.value = Math.min(mostPieces, own || all)
    pilot.value = Boolean(choice.value?.pilot)
  },
  { immediate: true },
)
watch([started, choice, pilot], () => {
  const size = choice.value?.lotSize ?? 0
  const ahead = pilot.value && started.value > 1 && size > 0
  lotsText.value = (ahead ? [1, ...splitLots(started.value - 1, size)] : splitLots(started.value, size)).join(' + ')
})

const lots = computed(() =>
  lotsText.value
    .split(/[^0-9]+/)
    .filter(Boolean)
    .map(Number),
)
const wants = computed(() => {
  const all = choice.value?.wants ?? []
  const own = (w: (typeof all)[number]) => w.orderId === forOrder.value
  return [...all.filter(own), ...all.filter((w) => !own(w))].slice(0, Math.max(0, started.value))
})
// What no two pieces have in common, and the pieces whose picture has not come.
const each = computed(() => (choice.value?.lettered ? 'name' : choice.value?.ownPictures ? 'picture' : ''))
const bare = computed(() => (choice.value?.ownPictures ? wants.value.filter((w) => !w.artworkId).length : 0))
const others = computed(() => (choice.value?.wants.length ?? 0) - wants.value.length)
const extras = computed(() => Math.max(0, started.value - wants.value.length))
const serves = computed(() => {
  const by = new Map<number, { customer: string; dueOn: string; pieces: number }>()
  for (const w of wants.value) {
    const s = by.get(w.orderId) ?? { customer: w.customer, dueOn: w.dueOn, pieces: 0 }
    s.pieces++
    by.set(w.orderId, s)
  }
  return [...by.values()]
})
const batch = computed(() => ({
  productId: productId.value,
  wantIds: wants.value.map((w) => w.wantId),
  extras: extras.value,
  lots: lots.value,
  pilot: pilot.value,
}))
// What it would do to promises is asked of a batch that can be.
const sound = computed(() =>
  started.value >= 1 && lots.value.reduce((n, l) => n + l, 0) === started.value ? batch.value : null,
)
const { broken, pilotBreaks } = useBatchAsk(sound)
// A pilot piece that would break a promise is not proposed, and that is said.
const pilotLeftOut = ref(0)
watch(pilotBreaks, (breaks) => {
  if (!breaks || !choice.value || pilotLeftOut.value === choice.value.productId) return
  pilotLeftOut.value = choice.value.productId
  pilot.value = false
})
const free = computed(() => freePrints(started.value, choice.value?.onSheet ?? 0))
const lotFault = computed(
  () => fault('lots') || Object.entries(trouble.value?.fields ?? {}).find(([k]) => k.startsWith('lots['))?.[1] || '',
)

const actName = computed(() => {
  if (!started.value) return 'Say how many to start'
  if (!lots.value.length) return 'Say in which lots'
  const start = `Start ${started.value} in ${lots.value.length === 1 ? 'one lot' : `${lots.value.length} lots`}`
  if (!broken.value.length) return start
  return `${start}, and break ${broken.value.length === 1 ? 'a promise' : `${broken.value.length} promises`}`
})

async function make() {
  const made = await act(() => answerOf(api.POST('/api/batches', { body: batch.value })))
  if (!made) return
  say({ text: `Batch ${made.number} made up. Its steps are on the plan.` })
  await router.push('/plan')
}
</script>

<template>
  <p v-if="demand && demand.length === 0" class="note">
    Nothing is made here yet. <RouterLink to="/products/new">Make the first product</RouterLink>.
  </p>
  <FootedForm v-else-if="demand" @send="make">
    <h1>Make up a batch</h1>
    <PickField
      v-model="productId"
      label="Of"
      :fault="fault('productId')"
      :choices="
        demand.map((d) => ({
          value: d.productId,
          name: `${d.productName} · ${d.wants.length ? `${d.wants.length} wanted` : 'none wanted, for the shelf'}`,
        }))
      "
    />
    <template v-if="choice">
      <TextField
        v-model="started"
        label="Pieces to start"
        :fault="fault('extras')"
        :hint="
          each
            ? `One for each ${each}.`
            : choice.extras
              ? `${choice.wants.length} wanted, ${choice.extras} more against expected spoils.`
              : undefined
        "
        numeric
      />
      <p v-if="free && !each" class="note glaze">
        The last sheet has room for {{ free }} more {{ free === 1 ? 'print' : 'prints' }}:
        {{ free === 1 ? 'it rides' : 'they ride' }}
        free.
        <button class="word" type="button" @click="started += free">Start {{ started + free }}</button>
      </p>
      <TextField
        v-model="lotsText"
        label="In lots of"
        :fault="lotFault"
        :hint="
          choice.lotSize
            ? `Up to ${choice.lotSize} fit a sitting and the racks.`
            : 'Not even one piece fits a sitting and its racks. Look at the hours, the racks and the turner in Workshop.'
        "
        inputmode="numeric"
      />
      <template v-if="choice.pilot && started > 1">
        <TickBox v-model="pilot">One pilot piece through removal first</TickBox>
        <p class="quiet">
          {{ choice.pilot }}
          <template v-if="pilotLeftOut === choice.productId && !pilot">
            It would make a promise late, so it is left out: tick it to see which.
          </template>
        </p>
      </template>
      <p v-if="choice.stopped" class="note brick">
        {{ choice.stopped }} <RouterLink :to="`/products/${choice.productId}`">Mend it, or overrule it</RouterLink>
      </p>
      <p v-if="bare" class="note straw">
        {{ bare === 1 ? 'One has' : `${bare} have` }} no picture of the customer’s yet, and cannot be printed until it
        is on the order.
      </p>
      <p v-if="choice.onShelf" class="note glaze">{{ choice.onShelf }} finished on the shelf already.</p>
      <div v-if="serves.length">
        <h2>Serves</h2>
        <ul>
          <li v-for="s in serves" :key="s.customer + s.dueOn" class="serve">
            <span>{{ s.pieces }} for {{ s.customer }}</span
            ><span class="quiet">due {{ dayName(s.dueOn, dateOf(now)) }}</span>
          </li>
          <li v-if="extras" class="serve">
            <span>{{ extras }} for the shelf, or against spoils</span>
          </li>
        </ul>
      </div>
      <p v-if="forOrder && others > 0" class="quiet">
        {{ others }} more {{ others === 1 ? 'is' : 'are' }} wanted by other orders.
        <button class="word" type="button" @click="started = choice.wants.length + choice.extras">
          Start all {{ choice.wants.length + choice.extras }}
        </button>
      </p>
      <p v-if="!serves.length" class="quiet">
        {{
          each
            ? `No ${each}s are open, so there is nothing to start.`
            : 'All of them go to the shelf, from which later orders are filled first.'
        }}
      </p>
      <p v-if="wants.some((w) => w.lettering)" class="quiet names">{{ wants.map((w) => w.lettering).join(' / ') }}</p>
      <OveragePanel
        :key="choice.productId"
        :product-id="choice.productId"
        :good="choice.wants.length || started"
        :each="each"
        @take="started = $event"
      />
    </template>
    <template #foot>
      <div v-if="broken.length" class="note brick moves">
        <p>Starting it so breaks {{ broken.length === 1 ? 'a promise' : `${broken.length} promises` }}:</p>
        <MoveList :moves="broken" />
      </div>
      <TroubleNote :trouble="trouble" whole />
      <button class="act" type="submit" :disabled="busy || !choice || started < 1">
        {{ busy ? 'Saving' : actName }}
      </button>
    </template>
  </FootedForm>
</template>

<style scoped>
.moves {
  max-height: 30vh;
  overflow: auto;
}
.serve {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  padding: 4px 0;
  border-bottom: 1px solid var(--line);
}
.names {
  overflow-wrap: anywhere;
}
</style>
