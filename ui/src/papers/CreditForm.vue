<script setup lang="ts">
import { computed, reactive } from 'vue'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import { money } from '../shared/money'
import PickField from '../shared/PickField.vue'
import PanelForm from '../shared/PanelForm.vue'
import TextField from '../shared/TextField.vue'
import { say } from '../shared/toast'
import { paperAddress } from './kinds'

// What is taken off an invoice: what was let off since, or all that is left of it.
const props = defineProps<{ id: number; left: string; toCredit: string }>()
const emit = defineEmits<{ done: [] }>()
const { act, busy, trouble, fault } = useAct()
const some = computed(() => Number(props.toCredit) > 0 && Number(props.toCredit) < Number(props.left))
const form = reactive({ whole: some.value ? 'some' : 'whole', reason: '' })
const choices = computed(() => [
  ...(some.value ? [{ value: 'some', name: `what was let off, ${money(props.toCredit)}` }] : []),
  { value: 'whole', name: `all that is left of it, ${money(props.left)}` },
])
async function credit() {
  const body = { whole: form.whole === 'whole', reason: form.reason }
  const paper = await act(() =>
    answerOf(api.POST('/api/issued-papers/{id}/credit', { params: { path: { id: props.id } }, body })),
  )
  if (!paper) return
  say({
    text: `Credit note ${paper.number} is issued.`,
    action: 'Open it',
    act: () => void window.open(paperAddress(paper.id), '_blank'),
  })
  emit('done')
}
</script>

<template>
  <PanelForm
    label="A credit note"
    act="Issue the credit note"
    acting="Issuing"
    :busy="busy"
    :trouble="trouble"
    @send="credit"
    @leave="emit('done')"
  >
    <PickField v-model="form.whole" label="Credited" :choices="choices" :fault="fault('whole')" />
    <TextField
      v-model="form.reason"
      label="Why"
      :fault="fault('reason')"
      hint="it stands on the note"
      maxlength="400"
    />
  </PanelForm>
</template>
