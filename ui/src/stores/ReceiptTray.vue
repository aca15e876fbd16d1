<script setup lang="ts">
import TroubleNote from '../shared/TroubleNote.vue'
import OfferField from '../shared/OfferField.vue'
import DateField from '../shared/DateField.vue'
import { countIn, plainDecimal } from '../shared/reading'
import { computed, ref } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { now } from '../shared/clock'
import { money, unit } from '../shared/money'
import TextField from '../shared/TextField.vue'
import { dateOf } from '../shared/time'
import { say } from '../shared/toast'
import { useWorkshop } from '../shared/useWorkshop'
import PurchaseFields from './PurchaseFields.vue'
import { emptyLine, emptyReceipt, takeProposed } from './receipt'
import FieldPair from '../shared/FieldPair.vue'
import FootedForm from '../shared/FootedForm.vue'

// What was bought at once: its lines, and the shipping and tax that are shared over them. id is a material, or 0.
const props = defineProps<{ id: number }>()
const emit = defineEmits<{ close: [] }>()
const { act, busy, trouble, fault } = useAct()
const { workshop } = useWorkshop()
const { data: names } = useAnswer('/api/material-names')
const { data: suppliers } = useAnswer('/api/suppliers')

const today = dateOf(now.value)
const form = ref(takeProposed(today) ?? emptyReceipt(today, props.id))
const total = computed(() =>
  [form.value.shipping, form.value.tax, ...form.value.lines.map((l) => l.price)]
    .map((text) => Number(plainDecimal(text ?? '')) || 0)
    .reduce((a, b) => a + b, 0),
)
const materialOf = (l: Schemas['NewPurchase']) => names.value?.find((n) => n.id === l.materialId)

async function save() {
  const body = {
    ...form.value,
    shipping: plainDecimal(form.value.shipping ?? ''),
    tax: plainDecimal(form.value.tax ?? ''),
    lines: form.value.lines.map((l) => ({
      ...l,
      packs: countIn(l.packs),
      price: plainDecimal(l.price),
      rejects: countIn(l.rejects),
      sorted: (l.sorted ?? []).filter((s) => s.pieces > 0),
    })),
  }
  const entered = await act(() => answerOf(api.POST('/api/receipts', { body })))
  if (!entered) return
  say({ text: `Entered. It is in the stores, and what pieces cost follows.` })
  emit('close')
}
</script>

<template>
  <FootedForm @send="save">
    <h1>What you bought</h1>
    <div class="fields">
      <OfferField
        v-model="form.supplier"
        label="From"
        :fault="fault('supplier')"
        :offers="(suppliers ?? []).map((s) => s.name)"
        maxlength="120"
      />
      <DateField v-model="form.receivedOn" label="It came on" :fault="fault('receivedOn')" />
      <PurchaseFields
        v-for="(_, i) in form.lines"
        :key="i"
        v-model="form.lines[i]!"
        :number="i + 1"
        :names="names ?? []"
        :material="materialOf(form.lines[i]!)"
        :fault="(f: string) => fault(`lines[${i}].${f}`)"
        :removable="form.lines.length > 1"
        @remove="form.lines.splice(i, 1)"
      />
      <p v-if="fault('lines')" class="bad" role="alert">{{ fault('lines') }}</p>
      <button class="side left" type="button" @click="form.lines.push(emptyLine())">Another material</button>
      <FieldPair columns="1fr 1fr">
        <TextField
          v-model="form.shipping"
          :label="`Shipping and duty, ${unit()}`"
          :fault="fault('shipping')"
          hint="Shared over the lines by value."
          inputmode="decimal"
          maxlength="12"
        />
        <TextField
          v-model="form.tax"
          :label="`Tax, ${unit()}`"
          :fault="fault('tax')"
          :hint="workshop?.taxIsCost ? 'If not in the prices; a cost here.' : 'Given back to you: no cost.'"
          inputmode="decimal"
          maxlength="12"
        />
      </FieldPair>
      <TextField v-model="form.note" label="Note" :fault="fault('note')" maxlength="500" />
    </div>
    <template #foot>
      <TroubleNote :trouble="trouble" whole />
      <button class="act" type="submit" :disabled="busy">
        {{ busy ? 'Saving' : `Enter it: ${money(total)}` }}
      </button>
    </template>
  </FootedForm>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 12px;
  margin: 10px 0 16px;
}
.left {
  justify-self: start;
}
</style>
