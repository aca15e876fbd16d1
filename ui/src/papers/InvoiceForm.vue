<script setup lang="ts">
import { reactive } from 'vue'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import PanelForm from '../shared/PanelForm.vue'
import TextField from '../shared/TextField.vue'
import { say } from '../shared/toast'
import { paperAddress } from './kinds'

// Whom an invoice is for, before it is issued: it is not changed after.
const props = defineProps<{ id: number; to: string }>()
const emit = defineEmits<{ done: [] }>()
const { act, busy, trouble, fault } = useAct()
const form = reactive({ to: props.to, note: '' })
async function issue() {
  const body = { ...form, kind: 'invoice' as const }
  const paper = await act(() =>
    answerOf(api.POST('/api/orders/{id}/papers', { params: { path: { id: props.id } }, body })),
  )
  if (!paper) return
  say({
    text: `Invoice ${paper.number} is issued.`,
    action: 'Open it',
    act: () => void window.open(paperAddress(paper.id), '_blank'),
  })
  emit('done')
}
</script>

<template>
  <PanelForm
    label="An invoice"
    act="Issue it"
    acting="Issuing"
    :busy="busy"
    :trouble="trouble"
    @send="issue"
    @leave="emit('done')"
  >
    <TextField v-model="form.to" label="For" :rows="4" :fault="fault('to')" hint="as on a letter" maxlength="600" />
    <TextField v-model="form.note" label="Said under it" :fault="fault('note')" maxlength="1000" />
    <p class="quiet">An invoice stays as issued: what is wrong with it is credited, not changed.</p>
  </PanelForm>
</template>
