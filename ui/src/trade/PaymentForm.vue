<script setup lang="ts">
import { reactive } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { choicesOf } from '../shared/choices'
import { now } from '../shared/clock'
import DateField from '../shared/DateField.vue'
import FieldPair from '../shared/FieldPair.vue'
import { amount as inCents, money, unit } from '../shared/money'
import PickField from '../shared/PickField.vue'
import { plainDecimal } from '../shared/reading'
import PanelForm from '../shared/PanelForm.vue'
import TextField from '../shared/TextField.vue'
import { dateOf } from '../shared/time'
import { say } from '../shared/toast'
import { wayNames } from './ways'

// Money that came, or went back, as it is noted.
const props = defineProps<{ id: number; kind: Schemas['Payment']['kind']; amount: string }>()
const emit = defineEmits<{ done: [] }>()
const { act, busy, trouble, fault } = useAct()
const form = reactive({
  amount: props.amount ? inCents(props.amount) : '',
  paidOn: dateOf(now.value),
  way: 'cash' as Schemas['Payment']['way'],
  note: '',
})
async function note() {
  const body = { ...form, amount: plainDecimal(form.amount), kind: props.kind }
  const account = await act(() =>
    answerOf(api.POST('/api/orders/{id}/payments', { params: { path: { id: props.id } }, body })),
  )
  if (!account) return
  say({ text: `${money(body.amount)} ${props.kind === 'refund' ? 'given back' : 'paid'}.` })
  emit('done')
}
</script>

<template>
  <PanelForm
    :label="kind === 'refund' ? 'Money given back' : 'A payment'"
    act="Note it"
    acting="Saving"
    :busy="busy"
    :trouble="trouble"
    @send="note"
    @leave="emit('done')"
  >
    <FieldPair columns="1fr 1fr">
      <TextField v-model="form.amount" :label="`Amount, ${unit()}`" :fault="fault('amount')" maxlength="14" />
      <PickField v-model="form.way" label="How" :fault="fault('way')" :choices="choicesOf(wayNames)" />
    </FieldPair>
    <DateField v-model="form.paidOn" label="On" :fault="fault('paidOn')" />
    <TextField v-model="form.note" label="Note" :fault="fault('note')" maxlength="200" />
  </PanelForm>
</template>
