<script setup lang="ts">
import { ref } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import ActRow from '../shared/ActRow.vue'
import DialogBox from '../shared/dialog'
import FoldBox from '../shared/FoldBox.vue'
import { role } from '../shared/settings'
import ThingTrail from '../trail/ThingTrail.vue'

// What is known of somebody, given out or erased on their request.
const props = defineProps<{ customer: Schemas['Customer'] }>()
const { tell, busy } = useAct()
const asked = ref(false)
async function erase() {
  asked.value = false
  const { id, version } = props.customer
  await tell(() => answerOf(api.POST('/api/customers/{id}/erase', { params: { path: { id } }, body: { version } })))
}
</script>

<template>
  <FoldBox v-if="role === 'owner'" name="Their data">
    <p class="quiet">
      Whoever asks is given what is known of them, or has it erased. Orders stay then, under a number; backups of before
      have it erased again when they are put back.
    </p>
    <ActRow>
      <a class="word" :href="`/api/customers/${customer.id}/data`" download>Give it out</a>
      <button class="word" type="button" :disabled="busy" @click="asked = true">Erase it</button>
    </ActRow>
  </FoldBox>
  <ThingTrail :id="customer.id" about="customers" />
  <DialogBox v-if="asked" v-model="asked" :title="`Erase all that tells of ${customer.name}?`" width="440">
    <p>
      Name, addresses, notes, names on pieces, pictures they sent and what the trail holds of them are gone for good.
      This cannot be undone.
    </p>
    <template #footer>
      <button class="side" type="button" @click="erase">Erase it</button>&nbsp;
      <button class="act" type="button" @click="asked = false">Keep it</button>
    </template>
  </DialogBox>
</template>
