<script setup lang="ts">
import { useAnswer } from '../api/answers'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import FoldBox from '../shared/FoldBox.vue'
import SecretAddress from '../shared/SecretAddress.vue'

// Where the order's customer looks at the proof and answers, without a sign-in.
const props = defineProps<{ orderId: number }>()
const at = () => ({ path: { id: props.orderId } })
const { data: address } = useAnswer('/api/orders/{id}/proof-address', at)
const { tell, busy } = useAct()
const renew = () => tell(() => answerOf(api.POST('/api/orders/{id}/proof-address', { params: at() })))
</script>

<template>
  <FoldBox name="A page for the customer">
    <p class="quiet">
      Whoever knows its address sees these pieces, and says of each whether it is right. Nothing else of the studio is
      there.
    </p>
    <SecretAddress v-if="address" :path="address.path" :busy="busy" what="Make an address for it" @renew="renew" />
  </FoldBox>
</template>
