<script setup lang="ts">
import FoldBox from '../shared/FoldBox.vue'
import FileField from '../shared/FileField.vue'
import { computed, ref, watch } from 'vue'
import { Trouble, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { say } from '../shared/toast'
import { importTable, mostBytes, outcome, saving, type Table } from './importing'
import PickField from '../shared/PickField.vue'

// Tables of materials and purchases: looked through first, then taken in as a whole or not at all; and written out.
const { act, busy, trouble } = useAct()
const table = ref<Table>('materials')
const name = ref('')
const file = ref<Blob | null>(null)
const seen = ref<Schemas['Import'] | null>(null)
const progress = ref<Schemas['Progress'] | null>(null)
const tooLarge = ref(false)

const columns: Record<Table, string> = {
  materials:
    'key, name, kind, unit, unit_cost, film_mm, density, lasts, sheet_width_mm, sheet_height_mm, shelf_life_days, open_life_days, lead_days, hazard, sort, smallest_mm, label_floor_min, label_recoat_from_min, label_recoat_to_min, label_cure_min',
  purchases: 'receipt, supplier, received_on, material, packs, pack, price, shipping, tax, rejects, note',
}
const needed: Record<Table, string> = {
  materials: 'Only name must be there; a new material needs its kind, unit and unit cost too.',
  purchases:
    'supplier, received_on, material, pack and price must be there. Rows with the same word under receipt came together; material is its key or its name.',
}
const fileFault = computed(() => (tooLarge.value ? 'It is larger than 16 MiB; split it.' : ''))

async function choose(chosen: File) {
  seen.value = null
  file.value = null
  tooLarge.value = chosen.size > mostBytes
  if (tooLarge.value) return
  name.value = chosen.name
  // Kept as it is now, so that what is saved is what was looked through.
  const bytes = await chosen.arrayBuffer().catch(() => null)
  if (!bytes) return say({ text: 'The file cannot be read any more. Choose it again.', bad: true })
  file.value = new Blob([bytes])
  await take(false)
}
async function take(save: boolean) {
  const sent = file.value
  if (!sent) return
  progress.value = null
  const imp = await act(() => importTable(table.value, sent, save, (p) => (progress.value = p)))
  progress.value = null
  if (!imp) return
  seen.value = imp
  if (!imp.saved) return
  say({ text: `Taken in. ${outcome(imp, table.value)}.` })
  file.value = null
}
watch(table, () => {
  seen.value = null
  if (file.value) void take(false)
})
const doing = computed(() =>
  progress.value ? `${progress.value.doing}, ${progress.value.done} of ${progress.value.of}` : 'reading',
)
const shownTrouble = computed(() => (trouble.value instanceof Trouble ? trouble.value.message : ''))
</script>

<template>
  <h1>Tables</h1>
  <section aria-labelledby="take-in">
    <h2 id="take-in">Take one in</h2>
    <PickField
      v-model="table"
      label="It holds"
      :disabled="busy"
      :choices="[
        { value: 'materials', name: 'materials' },
        { value: 'purchases', name: 'what was bought' },
      ]"
    />
    <FileField
      label="The file, saved as CSV"
      accept=".csv,text/csv"
      :fault="fileFault"
      hint="It is looked through first; nothing is saved yet."
      :disabled="busy"
      :progress="busy ? { doing, share: progress ? progress.done / Math.max(1, progress.of) : 0 } : null"
      @file="choose"
    />
    <FoldBox name="Its columns">
      <p class="columns">{{ columns[table] }}</p>
      <p class="quiet">
        {{ needed[table] }} Commas or semicolons between cells, a decimal comma or point, UTF-8, at most 10,000 rows.
        What you write out below is of this form.
      </p>
    </FoldBox>
    <p v-if="shownTrouble" class="note brick" role="alert">{{ shownTrouble }}</p>
    <div v-if="seen" class="seen">
      <p role="status">
        <b>{{ name }}</b> · {{ outcome(seen, table) }}.
        <template v-if="seen.saved">Saved.</template>
      </p>
      <template v-if="seen.wrong">
        <p class="bad">
          {{ seen.wrong === 1 ? 'One thing is' : `${seen.wrong} things are` }} wrong, so nothing can be saved. Mend the
          file and choose it again.
        </p>
        <ul>
          <li v-for="(f, i) in seen.faults" :key="i">
            <b
              >Line {{ f.line }}<template v-if="f.column">, {{ f.column }}</template></b
            ><span>{{ f.message }}</span>
          </li>
        </ul>
        <p v-if="seen.wrong > seen.faults.length" class="quiet">The first {{ seen.faults.length }} of them.</p>
      </template>
      <template v-else>
        <p v-if="!seen.saved && table === 'purchases' && seen.added" class="quiet">
          All of it comes into the stores. If some is used up since, count what is there afterwards.
        </p>
        <button
          v-if="!seen.saved && seen.added + seen.changed"
          class="act"
          type="button"
          :disabled="busy"
          @click="take(true)"
        >
          {{ saving(seen, table) }}
        </button>
        <p v-else-if="!seen.saved" class="quiet">There is nothing to save.</p>
        <ul>
          <li v-for="a in seen.acts" :key="a.line">
            <b>{{ a.new ? 'new: ' : '' }}{{ a.name }}</b
            ><span class="quiet">{{ a.text }}</span>
          </li>
        </ul>
        <p v-if="seen.added + seen.changed > seen.acts.length" class="quiet">
          The first {{ seen.acts.length }} of them.
        </p>
      </template>
    </div>
  </section>
  <section aria-labelledby="write-out">
    <h2 id="write-out">Write one out</h2>
    <p><a href="/api/exports/materials" download>Materials</a></p>
    <p><a href="/api/exports/purchases" download>What was bought</a></p>
    <p><a href="/api/prices/table" download>All prices</a></p>
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 12px;
  margin: 12px 0 24px;
}
.columns {
  margin: 6px 0;
  overflow-wrap: anywhere;
  font-size: 14px;
}
.seen {
  display: grid;
  gap: 10px;
  padding: 12px;
  border: 1px solid var(--line);
  background: var(--paper);
}
li {
  display: grid;
  padding: 5px 0;
  border-bottom: 1px solid var(--line);
  overflow-wrap: anywhere;
}
@media (max-width: 640px) {
  section p a {
    display: inline-flex;
    align-items: center;
    min-height: 48px;
  }
}
</style>
