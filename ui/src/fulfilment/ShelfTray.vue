<script setup lang="ts">
import TroubleNote from '../shared/TroubleNote.vue'
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import { amount, money } from '../shared/money'
import TextField from '../shared/TextField.vue'
import { addDays, dateOf, dayName, moment } from '../shared/time'
import { say } from '../shared/toast'
import { useTray } from '../shared/tray'
import { usePanel } from '../shared/usePanel'
import { causes } from '../stores/words'
import ActRow from '../shared/ActRow.vue'
import PickField from '../shared/PickField.vue'

const DateField = defineAsyncComponent(() => import('../shared/DateField.vue'))

// The shelf of one product: its spare pieces, counting them, and what was found or is gone. id is the product's.
const props = defineProps<{ id: number }>()
const { open } = useTray()
const { act, busy, trouble, fault } = useAct()
const reversing = useAct()

const { data: card, error } = useAnswer('/api/products/{id}/shelf', () => ({ path: { id: props.id } }))
const { panel, toggle, shut } = usePanel<'count' | 'off' | 'goal'>()
const counted = ref('')
const nothingGone = (): Omit<Schemas['ShelfLoss'], 'pieces'> & { pieces: string } => ({
  pieces: '1',
  cause: 'spoil',
  lettering: '',
  note: '',
})
const gone = ref(nothingGone())
watch(
  () => props.id,
  () => shut(),
)
const today = computed(() => dateOf(thisMinute.value))
const params = computed(() => ({ params: { path: { id: props.id } } }))
const names = computed(() => card.value?.groups.filter((g) => g.lettering).map((g) => g.lettering) ?? [])
const pieces = (n: number) => (n === 1 ? '1 piece' : `${n} pieces`)
// A number as it was typed; what is none goes to the server as it is refused there.
const whole = (text: string) => (/^\d+$/.test(text.trim()) ? Number(text) : -1)

// How many are to lie ready by a day; what is lacking is made in the gaps.
const goal = ref({ pieces: '', on: '' })
function askGoal() {
  toggle('goal')
  const { goalPieces, goalOn } = card.value!
  goal.value = { pieces: String(goalPieces || ''), on: goalOn ?? addDays(today.value, 28) }
}
async function setGoal(pieces: number) {
  const body = { pieces, on: pieces ? goal.value.on : undefined }
  await act(() => answerOf(api.PUT('/api/products/{id}/stock-goal', { ...params.value, body })))
  if (trouble.value) return
  say({ text: pieces ? 'Planned in the gaps that orders leave.' : 'No goal any more.' })
  shut('goal')
}
async function count() {
  const done = await act(() =>
    answerOf(api.POST('/api/products/{id}/shelf/count', { ...params.value, body: { pieces: whole(counted.value) } })),
  )
  if (!done) return
  say({ text: `Counted. ${pieces(done.spare)} spare.` })
  counted.value = ''
  shut('count')
}
async function takeOff() {
  const body = { ...gone.value, pieces: whole(gone.value.pieces) }
  const done = await act(() => answerOf(api.POST('/api/products/{id}/shelf/take-off', { ...params.value, body })))
  if (!done) return
  say({ text: `Noted. ${pieces(done.spare)} spare.` })
  gone.value = nothingGone()
  shut('off')
}
async function reverse(m: Schemas['ShelfMovement']) {
  const done = await reversing.tell(() =>
    answerOf(api.POST('/api/shelf-movements/{id}/reverse', { params: { path: { id: m.id } } })),
  )
  if (done) say({ text: `Taken back. ${pieces(done.spare)} spare.` })
}
</script>

<template>
  <p v-if="error && !card" class="note brick">{{ error.message }}</p>
  <template v-else-if="card">
    <h1>{{ card.productName }}</h1>
    <p class="big">
      <b>{{ card.spare }} spare</b>
      <span v-if="Number(card.worth)" class="quiet">cost {{ money(card.worth) }} to make</span>
    </p>
    <p v-if="card.setAside" class="quiet">{{ card.setAside }} more are finished and set aside for orders.</p>
    <ActRow class="row">
      <button v-if="card.spare" class="act" type="button" @click="open('new-order')">Sell some</button>
      <button class="side" type="button" :aria-expanded="panel === 'count'" @click="toggle('count')">Count</button>
      <button v-if="card.spare" class="side" type="button" :aria-expanded="panel === 'off'" @click="toggle('off')">
        Gone
      </button>
      <button v-if="!card.distinct" class="side" type="button" :aria-expanded="panel === 'goal'" @click="askGoal">
        Goal
      </button>
    </ActRow>
    <p v-if="card.goalOn && panel !== 'goal'" class="quiet">
      {{ card.goalPieces }} are to lie ready by {{ dayName(card.goalOn, today) }}.
    </p>
    <form v-if="panel === 'goal'" class="panel" novalidate @submit.prevent="setGoal(whole(goal.pieces))">
      <TextField
        v-model="goal.pieces"
        label="Pieces to lie ready"
        :fault="fault('pieces')"
        hint="What is lacking is suggested as a batch, and planned where orders leave room."
        inputmode="numeric"
        maxlength="5"
      />
      <DateField v-model="goal.on" label="By" :fault="fault('on')" />
      <TroubleNote :trouble="trouble" />
      <ActRow>
        <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'Aim for that' }}</button>
        <button v-if="card.goalOn" class="side" type="button" :disabled="busy" @click="setGoal(0)">No goal</button>
      </ActRow>
    </form>
    <form v-if="panel === 'count'" class="panel" novalidate @submit.prevent="count">
      <TextField
        v-model="counted"
        label="Spare pieces really there"
        :fault="fault('pieces')"
        hint="Without those set aside for orders, and without pieces that bear a name. What is found more costs what the latest ones did."
        inputmode="numeric"
        maxlength="5"
      />
      <TroubleNote :trouble="trouble" />
      <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'That is what is there' }}</button>
    </form>
    <form v-if="panel === 'off'" class="panel" novalidate @submit.prevent="takeOff">
      <PickField
        v-if="names.length"
        v-model="gone.lettering"
        label="Which"
        :fault="fault('lettering')"
        :choices="[{ value: '', name: 'plain ones' }, ...names.map((n) => ({ value: n, name: `“${n}”` }))]"
      />
      <TextField
        v-model="gone.pieces"
        label="How many are gone"
        :fault="fault('pieces')"
        inputmode="numeric"
        maxlength="5"
      />
      <PickField
        v-model="gone.cause"
        label="They are"
        :fault="fault('cause')"
        :choices="[
          { value: 'spoil', name: 'spoilt: broken, yellowed, lifted' },
          { value: 'loss', name: 'lost: given away, not found' },
        ]"
      />
      <TextField v-model="gone.note" label="Note" :fault="fault('note')" maxlength="200" />
      <TroubleNote :trouble="trouble" />
      <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'Take them off' }}</button>
    </form>
    <template v-if="card.groups.length">
      <h2>On the shelf, the oldest first</h2>
      <ul>
        <li v-for="(g, i) in card.groups" :key="i">
          <span
            ><b>{{ pieces(g.pieces) }}</b
            ><template v-if="g.lettering"> “{{ g.lettering }}”</template
            ><template v-if="g.unitCost">, {{ amount(g.unitCost) }} each</template></span
          >
          <span class="quiet">
            <button v-if="g.batch" class="word" type="button" @click="open('batch', g.batchId)">
              batch {{ g.batch }}</button
            ><template v-else>found at a count</template>, {{ dayName(dateOf(g.finishedAt), today)
            }}<template v-if="!g.unitCost">; what it cost is noted when its batch is closed</template>
          </span>
        </li>
      </ul>
    </template>
    <h2>Found and gone</h2>
    <p v-if="card.movements.length === 0" class="quiet">
      Nothing was found or went missing. What batches bring and orders take is with them.
    </p>
    <ul>
      <li v-for="m in card.movements" :key="m.id" :class="{ undone: card.takenBack.includes(m.id) }">
        <span
          ><b>{{ m.pieces > 0 ? '+' : '' }}{{ m.pieces }}</b> {{ causes[m.cause]
          }}{{ m.reverses ? ', taken back' : '' }}</span
        >
        <span class="quiet">{{ moment(m.at, thisMinute) }}{{ m.note && !m.reverses ? ` · ${m.note}` : '' }}</span>
        <button
          v-if="!m.reverses && !card.takenBack.includes(m.id)"
          class="word"
          type="button"
          :disabled="reversing.busy.value"
          @click="reverse(m)"
        >
          Take back
        </button>
      </li>
    </ul>
  </template>
</template>

<style scoped src="../shared/card.css"></style>
