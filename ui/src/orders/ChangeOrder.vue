<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'
import type { Schemas, Trouble } from '../api/client'
import ActRow from '../shared/ActRow.vue'
import ClashNote from '../shared/ClashNote.vue'
import { useDraft } from '../shared/draft'
import FieldPair from '../shared/FieldPair.vue'
import { written } from '../shared/habit'
import { amount, unit } from '../shared/money'
import { countIn, plainDecimal } from '../shared/reading'
import SaveTrouble from '../shared/SaveTrouble.vue'
import TextField from '../shared/TextField.vue'
import { say } from '../shared/toast'
import ChangedCost from './ChangedCost.vue'
import DueFields from './DueFields.vue'
import { takenIn } from './names'

// An order as it is to be; few names come from a table, and the part for them comes then.
const FilesButton = defineAsyncComponent(() => import('../shared/FilesButton.vue'))
const props = defineProps<{
  order: Schemas['OrderPage']
  busy: boolean
  trouble: Trouble | null
  fault: (field: string) => string
}>()
const emit = defineEmits<{ change: [body: Omit<Schemas['OrderChange'], 'agreed'>]; cancel: [] }>()
const { form, version, clashes, keepMine, takeTheirs } = useDraft(
  () => props.order,
  ({ customer, dueOn, daysOnTheWay, note, keepRests, lines }) => ({
    customer,
    dueOn,
    daysOnTheWay,
    note,
    keepRests,
    lines: lines.map(({ lineId, product, unitPrice, pieces }) => ({
      lineId,
      product,
      unitPrice: exactly(unitPrice),
      lettered: pieces.some((p) => p.lettering !== ''),
      wants: pieces.map(({ wantId, lettering }) => ({ wantId, lettering })),
    })),
  }),
)
// A price is two decimals unless it was set finer.
function exactly(price: string) {
  const short = amount(price)
  return Number(short) === Number(price) ? short : price
}
const begun = computed(
  () => new Set(props.order.lines.flatMap((l) => l.pieces.filter((p) => p.mark !== 'notStarted').map((p) => p.wantId))),
)
type LineForm = NonNullable<typeof form.value>['lines'][number]
const names = {
  customer: 'Customer',
  dueOn: 'Due on',
  daysOnTheWay: 'Days on the way',
  note: 'Note',
  keepRests: 'Keeps its rests',
  lines: 'Its pieces',
}
const inWords = (field: string, value: unknown) =>
  field === 'lines'
    ? (value as LineForm[]).map((l) => `${l.wants.length} × ${l.product} at ${written(l.unitPrice)}`).join('; ')
    : String(value)
// Plain pieces are only counted: those that are not begun go first, and further ones come last.
const most = 500
function setQuantity(line: LineForm, text: string) {
  const wanted = countIn(text)
  if (!(wanted >= 1 && wanted <= most)) return
  while (line.wants.length < wanted) line.wants.push({ wantId: 0, lettering: '' })
  for (let i = line.wants.length - 1; i >= 0 && line.wants.length > wanted; i--) {
    if (!begun.value.has(line.wants[i]!.wantId)) line.wants.splice(i, 1)
  }
}
// A table's names go on the pieces that are not begun, in its order, and on further ones
// where they do not suffice; pieces left over keep theirs.
async function fromTable(line: LineForm, file: File) {
  const open = line.wants.filter((w) => !begun.value.has(w.wantId))
  const { names, said } = await takenIn(file, most - begunOf(line))
  say({ text: said, bad: !names.length })
  names.forEach((name, k) => {
    if (open[k]) open[k].lettering = name
    else line.wants.push({ wantId: 0, lettering: name })
  })
}
const begunOf = (line: LineForm) => line.wants.filter((w) => begun.value.has(w.wantId)).length
const nameFault = (i: number, k: number) =>
  props.fault(`lines[${i}].wants[${k}].lettering`) || props.fault(`lines[${i}].wants[${k}]`)
function save() {
  const { lines, ...rest } = form.value!
  const changed = lines.map(({ lineId, unitPrice, wants }) => ({
    lineId,
    unitPrice: plainDecimal(unitPrice),
    wants: wants.map(({ wantId, lettering }) => ({ wantId, lettering })),
  }))
  emit('change', { ...rest, lines: changed, version: version.value })
}
</script>

<template>
  <form v-if="form" class="change" novalidate @submit.prevent="save">
    <TextField v-model="form.customer" label="Customer" :fault="fault('customer')" maxlength="120" />
    <DueFields v-model:due-on="form.dueOn" v-model:days-on-the-way="form.daysOnTheWay" :fault="fault" />
    <TextField v-model="form.note" label="Note" :rows="3" :fault="fault('note')" maxlength="2000" />
    <fieldset v-for="(line, i) in form.lines" :key="line.lineId">
      <legend>{{ line.product }}</legend>
      <FieldPair columns="1fr 1fr">
        <TextField
          :label="`Price each, ${unit()}`"
          :model-value="line.unitPrice"
          :fault="fault(`lines[${i}].unitPrice`)"
          maxlength="12"
          @update:model-value="line.unitPrice = String($event)"
        />
        <TextField
          v-if="!line.lettered"
          label="Pieces"
          numeric
          lazy
          :model-value="line.wants.length"
          :fault="fault(`lines[${i}].wants`)"
          :hint="begunOf(line) ? `${begunOf(line)} begun, and kept` : ''"
          @update:model-value="setQuantity(line, String($event))"
        />
      </FieldPair>
      <template v-if="line.lettered">
        <ul class="pieces">
          <li v-for="(want, k) in line.wants" :key="want.wantId || `new-${k}`">
            <TextField
              v-model="want.lettering"
              bare
              maxlength="120"
              :label="`Name on piece ${k + 1} of ${line.product}`"
              :disabled="begun.has(want.wantId)"
              :wrong="Boolean(nameFault(i, k))"
            />
            <span v-if="begun.has(want.wantId)" class="quiet">begun</span>
            <button
              v-else-if="line.wants.length > 1"
              class="word"
              type="button"
              :aria-label="`take out ${want.lettering || `piece ${k + 1}`}`"
              @click="line.wants.splice(k, 1)"
            >
              take out
            </button>
            <p v-if="nameFault(i, k)" class="bad" role="alert">{{ nameFault(i, k) }}</p>
          </li>
        </ul>
        <p v-if="fault(`lines[${i}].wants`)" class="bad" role="alert">
          {{ fault(`lines[${i}].wants`) }}
        </p>
        <button
          v-if="line.wants.length < most"
          class="word"
          type="button"
          @click="line.wants.push({ wantId: 0, lettering: '' })"
        >
          Another piece of {{ line.product }}
        </button>
        <FilesButton
          label="Names from a table"
          accept=".csv,.txt,.tsv,text/csv,text/plain"
          quiet
          @file="fromTable(line, $event)"
        />
      </template>
    </fieldset>
    <ChangedCost :order="order" :lines="form.lines" />
    <SaveTrouble :trouble="trouble" />
    <ClashNote :clashes="clashes" :names="names" :show="inWords" @mine="keepMine" @theirs="takeTheirs" />
    <ActRow>
      <button class="act" type="submit" :disabled="busy">Save</button>
      <button class="word" type="button" @click="emit('cancel')">Cancel the order</button>
    </ActRow>
  </form>
</template>

<style scoped>
fieldset {
  display: grid;
  gap: 8px;
}
legend {
  font-size: inherit;
  font-weight: 650;
  color: var(--ink);
}
.pieces li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 10px;
  align-items: center;
  padding: 2px 0;
}
.pieces .bad {
  grid-column: 1 / -1;
}
fieldset > .word {
  justify-self: start;
}
.change {
  display: grid;
  gap: 10px;
  padding: 12px;
  border: 1px solid var(--line);
  background: var(--paper);
}
</style>
