<script setup lang="ts">
import ColumnTable from '../shared/ColumnTable.vue'
import TroubleNote from '../shared/TroubleNote.vue'
import { figure, written } from '../shared/habit'
import { computed, ref } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { money } from '../shared/money'
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

interface Row {
  name: string
  planned: string
  real: string
  material?: Line
}
const rows = computed<Row[]>(() => [
  ...(account.value?.steps ?? []).map((s) => ({
    name: s.step,
    planned: `${figure(s.planned, 0)} min`,
    real: `${figure(s.real, 0)} min`,
  })),
  ...(account.value?.materials ?? []).map((m) => ({
    name: m.name,
    planned: quantity(m.planned, m.unit),
    real: quantity(m.real, m.unit),
    material: m,
  })),
])

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
  if (saved)
    say({ text: `${m.name}: ${written(m.realPerPiece)} ${m.unit} a piece from now, recipe ${saved.recipeNumber}.` })
}
</script>

<template>
  <section v-if="account && account.steps.length" class="account" aria-labelledby="account">
    <h2 id="account">Planned and real</h2>
    <p>
      {{ account.good }} good so far of {{ account.started }} started,
      {{ figure(account.expectedGood, 1) }} expected<template v-if="account.lost">, {{ account.lost }} lost</template>.
      A good piece {{ account.realCost ? `cost ${money(account.realCost)}, planned` : 'is planned to cost' }}
      {{ money(account.plannedCost) }} for the steps done.
    </p>
    <ul v-if="account.moved.length">
      <li v-for="m in account.moved" :key="m">{{ m }}</li>
    </ul>
    <ColumnTable :rows="rows" name="Planned and real, by step and material">
      <el-table-column label="Step or material" min-width="150">
        <template #default="{ row: r }">
          {{ r.name }}
          <p v-if="r.material && offered(r.material)" class="quiet">
            {{ written(r.material.perPiece) }} {{ r.material.unit }} a piece planned,
            {{ written(r.material.realPerPiece) }} used over {{ r.material.pieces }}
            {{ r.material.pieces === 1 ? 'piece' : 'pieces' }}.
            <button class="word" type="button" :disabled="busy" @click="recalibrate(r.material)">
              Use {{ written(r.material.realPerPiece) }} from now
            </button>
          </p>
        </template>
      </el-table-column>
      <el-table-column label="Planned" prop="planned" align="right" />
      <el-table-column label="Real" prop="real" align="right" />
    </ColumnTable>
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
      <TroubleNote :trouble="trouble" />
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
.side {
  justify-self: start;
}
</style>
