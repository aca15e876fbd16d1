<script setup lang="ts">
import { computed, ref } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { currency } from '../shared/money'
import TextField from '../shared/TextField.vue'
import { say } from '../shared/toast'
import { quantity } from '../stores/words'
import PickField from '../shared/PickField.vue'

// A batch as it was planned and as it went, what moved it, and what it really used.
const props = defineProps<{ batchId: number; productId: number }>()
const { act, tell, busy, trouble, fault } = useAct()
const { data: account } = useAnswer('/api/batches/{id}/account', () => ({ path: { id: props.batchId } }))
const saying = ref(false)
const materialId = ref(0)
const really = ref('')

type Line = Schemas['AccountMaterial']
// A coat that took more than a twentieth more or less than planned is worth another film.
const offered = (m: Line) =>
  m.typed && Number(m.perPiece) > 0 && Math.abs(Number(m.realPerPiece) / Number(m.perPiece) - 1) > 0.05

const short = computed(() => trouble.value?.type === '/problems/short')
async function sayUsed(acceptShort = false) {
  const body = { materialId: materialId.value, quantity: really.value, acceptShort }
  const done = await act(() =>
    answerOf(api.POST('/api/batches/{id}/used', { params: { path: { id: props.batchId } }, body })),
  )
  if (!done) return
  really.value = ''
  saying.value = false
  say({ text: 'Kept. The stores follow.' })
}
async function recalibrate(m: Line) {
  // The version that was seen: what somebody has saved since is not passed over.
  const body = { material: m.materialKey, version: account.value!.productVersion }
  const saved = await tell(() =>
    answerOf(api.POST('/api/batches/{id}/films', { params: { path: { id: props.batchId } }, body })),
  )
  if (saved) say({ text: `${m.name}: ${m.realPerPiece} ${m.unit} a piece from now, recipe ${saved.recipeNumber}.` })
}
</script>

<template>
  <section v-if="account && account.steps.length" class="account" aria-labelledby="account">
    <h2 id="account">Planned and real</h2>
    <p>
      {{ account.good }} good so far of {{ account.started }} started,
      {{ account.expectedGood.toFixed(1) }} expected<template v-if="account.lost">, {{ account.lost }} lost</template>.
      A good piece {{ account.realCost ? `cost ${account.realCost}, planned` : 'is planned to cost' }}
      {{ account.plannedCost }} {{ currency }} for the steps done.
    </p>
    <ul v-if="account.moved.length">
      <li v-for="m in account.moved" :key="m">{{ m }}</li>
    </ul>
    <table>
      <thead>
        <tr>
          <th scope="col">Step or material</th>
          <th scope="col">Planned</th>
          <th scope="col">Real</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(s, i) in account.steps" :key="`s${i}`">
          <th scope="row">{{ s.step }}</th>
          <td>{{ s.planned.toFixed(0) }} min</td>
          <td>{{ s.real.toFixed(0) }} min</td>
        </tr>
        <tr v-for="m in account.materials" :key="m.materialKey">
          <th scope="row">
            {{ m.name }}
            <template v-if="offered(m)"
              ><br /><span class="quiet"
                >{{ m.perPiece }} {{ m.unit }} a piece planned, {{ m.realPerPiece }} used over {{ m.pieces }}
                {{ m.pieces === 1 ? 'piece' : 'pieces' }}.
                <button class="word" type="button" :disabled="busy" @click="recalibrate(m)">
                  Use {{ m.realPerPiece }} from now
                </button></span
              ></template
            >
          </th>
          <td>{{ quantity(m.planned, m.unit) }}</td>
          <td>{{ quantity(m.real, m.unit) }}</td>
        </tr>
      </tbody>
    </table>
    <button class="side" type="button" :aria-expanded="saying" @click="saying = !saying">
      Say what was really used
    </button>
    <form v-if="saying" novalidate @submit.prevent="sayUsed()">
      <PickField
        v-model="materialId"
        label="Of"
        :fault="fault('materialId')"
        placeholder="choose one"
        :choices="account.materials.map((m) => ({ value: m.materialId, name: m.name }))"
      />
      <TextField
        v-model="really"
        label="In all, for this batch"
        :fault="fault('quantity')"
        hint="All its steps together, such as 305 ml."
        maxlength="60"
      />
      <p v-if="trouble && !Object.keys(trouble.fields).length" class="note brick" role="alert">{{ trouble.message }}</p>
      <button v-if="short" class="side" type="button" :disabled="busy" @click="sayUsed(true)">
        It was there: put the stores right
      </button>
      <button v-else class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'Keep it' }}</button>
    </form>
  </section>
</template>

<style scoped>
.account,
form {
  display: grid;
  gap: 8px;
}
form {
  padding: 12px;
  border: 1px solid var(--line);
  background: var(--paper);
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 4px 0 4px 10px;
  border-top: 1px solid var(--line);
  font-weight: 400;
  text-align: right;
  vertical-align: top;
}
th:first-child {
  padding-left: 0;
  text-align: left;
}
thead th {
  border: 0;
  font-size: 13px;
  color: var(--soft);
}
.side {
  justify-self: start;
}
</style>
