<script setup lang="ts">
import { computed, ref } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import DialogBox from '../shared/dialog'
import { amount as inCents, money, unit } from '../shared/money'
import { plainDecimal } from '../shared/reading'
import TextField from '../shared/TextField.vue'
import TroubleNote from '../shared/TroubleNote.vue'

// What cancelling an order comes to, before it is done; what is kept can be agreed otherwise.
const props = defineProps<{ id: number; version: number }>()
const emit = defineEmits<{ done: [] }>()
const { act, busy, trouble, fault } = useAct()
const { data: account } = useAnswer('/api/orders/{id}/money', () => ({ path: { id: props.id } }))
const paid = computed(() => Number(account.value?.paid ?? 0))
const typed = ref<string | null>(null)
const kept = computed({
  get: () => typed.value ?? inCents(account.value?.wouldBe?.kept ?? '0'),
  set: (text: string) => (typed.value = text),
})
const back = computed(() => paid.value - Number(plainDecimal(kept.value)))
async function cancel() {
  const body = { version: props.version, kept: typed.value === null ? undefined : plainDecimal(typed.value) }
  await act(() => answerOf(api.POST('/api/orders/{id}/cancel', { params: { path: { id: props.id } }, body })))
  if (!trouble.value) emit('done')
}
</script>

<template>
  <DialogBox :model-value="true" title="Cancel this order?" width="420" @update:model-value="emit('done')">
    <p>Plain pieces made for it go to the shelf. Pieces with names stay in their batch and serve nobody.</p>
    <p v-if="account?.wouldBe && Number(account.wouldBe.spent) > 0">
      {{ money(account.wouldBe.spent) }} is spent on pieces that serve nobody else.
    </p>
    <template v-if="account?.wouldBe && paid > 0">
      <p v-if="back >= 0 && back <= paid">
        Of the {{ money(account.paid) }} paid, {{ money(paid - back) }} is kept
        {{ typed === null ? 'by your terms' : 'as you agreed'
        }}<template v-if="back > 0">, and {{ money(back) }} goes back</template>.
      </p>
      <TextField v-model="kept" :label="`Kept, ${unit()}`" :fault="fault('kept')" inputmode="decimal" maxlength="12" />
    </template>
    <TroubleNote :trouble="trouble" />
    <template #footer>
      <button class="side" type="button" :disabled="busy" @click="cancel">Cancel the order</button>&nbsp;
      <button class="act" type="button" @click="emit('done')">Keep the order</button>
    </template>
  </DialogBox>
</template>
