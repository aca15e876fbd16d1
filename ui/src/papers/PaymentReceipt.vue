<script setup lang="ts">
import { computed } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import { say } from '../shared/toast'
import { paperAddress } from './kinds'

// The receipt of a payment: issued once, and then opened.
const props = defineProps<{ id: number; payment: number }>()
const { tell, busy } = useAct()
const { data: written } = useAnswer('/api/orders/{id}/papers', () => ({ path: { id: props.id } }))
const issued = computed(() => written.value?.papers.find((p) => p.paymentId === props.payment))
async function issue() {
  const body = { kind: 'receipt' as const, paymentId: props.payment }
  const paper = await tell(() =>
    answerOf(api.POST('/api/orders/{id}/papers', { params: { path: { id: props.id } }, body })),
  )
  if (!paper) return
  say({
    text: `Receipt ${paper.number} is issued.`,
    action: 'Open it',
    act: () => void window.open(paperAddress(paper.id), '_blank'),
  })
}
</script>

<template>
  <a v-if="issued" :href="paperAddress(issued.id)" target="_blank">receipt {{ issued.number }}</a>
  <button v-else class="word" type="button" :disabled="busy" @click="issue">Receipt</button>
</template>
