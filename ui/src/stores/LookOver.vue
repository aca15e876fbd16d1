<script setup lang="ts">
import TroubleNote from '../shared/TroubleNote.vue'
import { ref } from 'vue'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import TextField from '../shared/TextField.vue'
import { say } from '../shared/toast'
import { quantity } from './words'
import { countIn } from '../shared/reading'

// Blanks of a purchase that turned out to be no good are counted against their supplier.
const props = defineProps<{ purchaseId: number; supplier: string }>()
const { act, busy, trouble, fault } = useAct()
const open = ref(false)
const noGood = ref('')
const note = ref('')

async function save() {
  const body = { noGood: countIn(noGood.value), note: note.value }
  const m = await act(() =>
    answerOf(api.POST('/api/purchases/{id}/inspect', { params: { path: { id: props.purchaseId } }, body })),
  )
  if (!m) return
  say({ text: `Counted against ${props.supplier}. ${quantity(m.onHand, m.unit)} is there.` })
  open.value = false
  noGood.value = ''
  note.value = ''
}
</script>

<template>
  <button class="word" type="button" :aria-expanded="open" @click="open = !open">Some are no good</button>
  <form v-if="open" novalidate @submit.prevent="save">
    <TextField
      v-model="noGood"
      label="No good on arrival"
      :fault="fault('noGood')"
      :hint="`Counted against ${supplier}; the good ones bear their cost.`"
      inputmode="numeric"
      maxlength="6"
    />
    <TextField v-model="note" label="What is wrong with them" :fault="fault('note')" maxlength="200" />
    <TroubleNote :trouble="trouble" />
    <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'Count them out' }}</button>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 10px;
  width: 100%;
  padding: 12px;
  border: 1px solid var(--line);
  background: var(--paper);
}
</style>
