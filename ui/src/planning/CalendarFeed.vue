<script setup lang="ts">
import { useAnswer } from '../api/answers'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import FoldBox from '../shared/FoldBox.vue'
import SecretAddress from '../shared/SecretAddress.vue'
import { say } from '../shared/toast'

// The plan in a calendar program: it cannot sign in, so the feed has a secret address.
const { data: feed } = useAnswer('/api/plan/calendar-address')
const { tell, busy, trouble } = useAct()
async function renew() {
  const before = feed.value?.path
  await tell(() => answerOf(api.POST('/api/plan/calendar-address')))
  if (before && !trouble.value) say({ text: 'The address before shows nothing any more.' })
}
const close = () => tell(() => answerOf(api.POST('/api/plan/calendar-address/close')))
</script>

<template>
  <FoldBox name="In your calendar program">
    <p class="quiet">
      Subscribe to this address there, and it shows the plan as it changes: work and people, no customers and no prices.
      Whoever knows the address sees that.
    </p>
    <SecretAddress v-if="feed" :path="feed.path" :busy="busy" what="Make an address for it" @renew="renew">
      <button class="word" type="button" :disabled="busy" @click="close">Close it</button>
    </SecretAddress>
  </FoldBox>
</template>
