<script setup lang="ts">
import { figure } from '../shared/habit'
import TroubleNote from '../shared/TroubleNote.vue'
import { computed, ref, watch } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import { money } from '../shared/money'
import TextField from '../shared/TextField.vue'
import { dateOf, dayName, moment } from '../shared/time'
import { say } from '../shared/toast'
import { useTray } from '../shared/tray'
import { usePanel } from '../shared/usePanel'
import ChangeMaterial from './ChangeMaterial.vue'
import { labelSaid, laid } from './label'
import LabelledRecipes from './LabelledRecipes.vue'
import MaterialFall from './MaterialFall.vue'
import LookOver from './LookOver.vue'
import { causes, quantity, unitCost } from './words'
import ActRow from '../shared/ActRow.vue'
import PickField from '../shared/PickField.vue'
import ThingTrail from '../trail/ThingTrail.vue'

// One material: what is left and what it costs, counting it, and where it went.
const props = defineProps<{ id: number }>()
const emit = defineEmits<{ close: [] }>()
const { open } = useTray()
const { act, busy, trouble, fault } = useAct()
const reversing = useAct()

const { data: card, error } = useAnswer('/api/materials/{id}', () => ({ path: { id: props.id } }))
const { data: needs } = useAnswer('/api/needs')
const need = computed(() => needs.value?.materials.find((n) => n.materialId === props.id))
const { panel, toggle, shut } = usePanel<'count' | 'out' | 'facts'>()
const counted = ref('')
const out = ref({ quantity: '', cause: 'spoil' as Schemas['TakingOut']['cause'], note: '' })
watch(
  () => props.id,
  () => shut(),
)

const params = computed(() => ({ params: { path: { id: props.id } } }))
const today = computed(() => dateOf(thisMinute.value))

async function count() {
  const m = await act(() =>
    answerOf(api.POST('/api/materials/{id}/count', { ...params.value, body: { quantity: counted.value } })),
  )
  if (!m) return
  say({ text: `${m.name}: ${quantity(m.onHand, m.unit)} is there.` })
  counted.value = ''
  shut('count')
}
async function takeOut() {
  const m = await act(() => answerOf(api.POST('/api/materials/{id}/take-out', { ...params.value, body: out.value })))
  if (!m) return
  say({ text: `Noted. ${quantity(m.onHand, m.unit)} is left.` })
  out.value = { quantity: '', cause: 'spoil', note: '' }
  shut('out')
}
async function reverse(m: Schemas['Movement']) {
  const done = await reversing.tell(() =>
    answerOf(api.POST('/api/movements/{id}/reverse', { params: { path: { id: m.id } } })),
  )
  if (done) say({ text: `Taken back. ${quantity(done.onHand, done.unit)} is there.` })
}
// What was bought goes back with its receipt, blanks found to be no good by themselves.
const mayReverse = (m: Schemas['Movement']) =>
  !m.reverses && (!m.receiptId || Number(m.quantity) < 0) && !m.batchId && !card.value!.takenBack.includes(m.id)
</script>

<template>
  <p v-if="error && !card" class="note brick">{{ error.message }}</p>
  <template v-else-if="card">
    <h1>{{ card.name }}</h1>
    <p class="big">
      <b>{{ card.counted ? quantity(card.onHand, card.unit) : 'not counted' }}</b>
      <span v-if="card.counted" class="quiet">left, paid {{ money(card.worth) }}</span>
    </p>
    <p>
      {{ unitCost(card.unitCost) }} a {{ card.unit
      }}<template v-if="card.latestCost">, to buy again {{ unitCost(card.latestCost) }}</template>
    </p>
    <p v-if="card.useBy" :class="card.useBy <= today ? 'bad' : 'quiet'">Use by {{ dayName(card.useBy, today) }}</p>
    <p v-if="card.smallestMm" class="quiet">
      The smallest of this class is {{ figure(card.smallestMm) }} mm: size its prints to that.
    </p>
    <p v-if="laid(card.kind)" class="quiet">Label: {{ labelSaid(card) }}.</p>
    <LabelledRecipes v-if="laid(card.kind)" :id="card.id" />
    <MaterialFall v-if="card.counted && need?.levels.length" :need="need" :unit="card.unit" />
    <p v-if="card.hazard" class="note">
      {{ card.hazard }} Follow the label and the safety data sheet; local codes and licensed practice come first.
    </p>
    <ActRow class="row">
      <button class="act" type="button" @click="open('receipt', card.id)">Enter what you bought</button>
      <button class="side" type="button" :aria-expanded="panel === 'count'" @click="toggle('count')">Count</button>
      <button v-if="card.counted" class="side" type="button" :aria-expanded="panel === 'out'" @click="toggle('out')">
        Gone
      </button>
      <button class="side" type="button" :aria-expanded="panel === 'facts'" @click="toggle('facts')">Change</button>
    </ActRow>
    <form v-if="panel === 'count'" class="panel" novalidate @submit.prevent="count">
      <TextField
        v-model="counted"
        label="There really is"
        :fault="fault('quantity')"
        :hint="`Such as ${card.unit === 'ml' ? '380 ml or ½ l' : `12 ${card.unit}s`}; 0 when nothing is left.`"
        maxlength="60"
      />
      <TroubleNote :trouble="trouble" />
      <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'That is what is there' }}</button>
    </form>
    <form v-if="panel === 'out'" class="panel" novalidate @submit.prevent="takeOut">
      <TextField v-model="out.quantity" label="How much is gone" :fault="fault('quantity')" maxlength="60" />
      <PickField
        v-model="out.cause"
        label="It was"
        :fault="fault('cause')"
        :choices="[
          { value: 'spoil', name: 'spoilt: dried up, too old, broken' },
          { value: 'loss', name: 'lost: spilled, given away, not found' },
        ]"
      />
      <TextField v-model="out.note" label="Note" :fault="fault('note')" maxlength="200" />
      <TroubleNote :trouble="trouble" />
      <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'Take it out' }}</button>
    </form>
    <ChangeMaterial v-if="panel === 'facts'" :card="card" @saved="shut('facts')" @gone="emit('close')" />
    <template v-if="card.left.length">
      <h2>What is left, in order of use</h2>
      <ul>
        <li v-for="p in card.left" :key="p.purchaseId">
          <span
            ><b>{{ quantity(p.left, card.unit) }}</b> of {{ quantity(p.quantity, card.unit) }},
            {{ unitCost(p.unitCost) }} each</span
          >
          <span class="quiet"
            >{{ p.supplier || 'found at a count' }}, {{ dayName(p.receivedOn, today)
            }}<template v-if="p.openedAt">, open since {{ dayName(dateOf(p.openedAt), today) }}</template></span
          >
          <LookOver v-if="card.kind === 'blank' && p.supplier" :purchase-id="p.purchaseId" :supplier="p.supplier" />
        </li>
      </ul>
    </template>
    <template v-if="card.packs.length">
      <h2>Packs it comes in</h2>
      <ul>
        <li v-for="p in card.packs" :key="p.purchaseId">
          <span>{{ p.pack }}, {{ money(p.price) }}</span>
          <span class="quiet">{{ p.supplier }}</span>
        </li>
      </ul>
    </template>
    <h2>Where it came from and went</h2>
    <p v-if="card.movements.length === 0" class="quiet">Nothing has moved yet.</p>
    <ul>
      <li v-for="m in card.movements" :key="m.id" :class="{ undone: card.takenBack.includes(m.id) }">
        <span
          ><b>{{ Number(m.quantity) > 0 ? '+' : '' }}{{ quantity(m.quantity, card.unit) }}</b>
          {{ m.reverses ? `${causes[m.cause]}, taken back` : causes[m.cause]
          }}<template v-if="!m.counted">, not counted then</template></span
        >
        <span class="quiet">{{ moment(m.at, thisMinute) }} · {{ m.note }} · {{ unitCost(m.unitCost) }} each</span>
        <button v-if="mayReverse(m)" class="word" type="button" :disabled="reversing.busy.value" @click="reverse(m)">
          Take back
        </button>
      </li>
    </ul>
    <p v-if="card.moved > card.movements.length" class="quiet">
      The latest {{ card.movements.length }} of {{ card.moved }} movements.
    </p>
    <ThingTrail :id="card.id" about="materials" />
  </template>
</template>

<style scoped src="../shared/card.css"></style>
