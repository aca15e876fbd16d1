<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { personId } from '../shared/settings'
import { useWorkshop } from '../shared/useWorkshop'
import ActRow from '../shared/ActRow.vue'
import DialogBox from '../shared/dialog'
import PickField from '../shared/PickField.vue'
import TextField from '../shared/TextField.vue'
import TroubleNote from '../shared/TroubleNote.vue'

// Who holds a shared device: by their PIN, where they have one.
const props = defineProps<{ me: Schemas['Me'] }>()
const { people } = useWorkshop()
const { data: holders } = useAnswer('/api/holders')
const { act, busy, trouble, fault } = useAct()
const asked = ref<Schemas['Holder'] | null>(null)
const pin = ref('')

// Whoever has a sign-in of their own is here when they have said so, by their PIN where they
// have one; until then it is somebody who has none, if there is one.
const signsIn = (person: number) =>
  person === props.me.personId ? undefined : holders.value?.find((h) => h.personId === person)
const here = computed(() => (signsIn(personId.value)?.hasPin ? 0 : personId.value))
watch(
  [holders, people],
  () => {
    const free = people.value.find((p) => p.id !== props.me.personId && !signsIn(p.id))
    if (holders.value && signsIn(personId.value) && free) personId.value = free.id
  },
  { immediate: true },
)
const choices = computed(() => people.value.map((p) => ({ value: p.id, name: p.name })))

async function hold(person: number, memberId: number) {
  const body = { memberId, pin: pin.value }
  const held = await act(() => answerOf(api.POST('/api/holder', { body })))
  if (held) personId.value = person
  return held
}
function pick(person: number) {
  pin.value = ''
  trouble.value = null
  const h = holders.value?.find((o) => o.personId === person)
  if (h?.hasPin) asked.value = h
  // whoever has no sign-in of their own is believed, and the device is noted
  else if (h || props.me.personId) void hold(person, h?.memberId ?? 0)
  else personId.value = person
}
async function say() {
  if (await hold(asked.value!.personId!, asked.value!.memberId)) asked.value = null
}
</script>

<template>
  <div>
    <PickField
      :model-value="here"
      placeholder="Who is here?"
      bare
      label="Who is at this device"
      :choices="choices"
      @update:model-value="pick(Number($event))"
    />
    <DialogBox v-if="asked" :model-value="true" :title="`${asked.name}, your PIN`" width="340" @close="asked = null">
      <form novalidate @submit.prevent="say">
        <TextField
          v-model="pin"
          label="PIN"
          :fault="fault('pin')"
          type="password"
          inputmode="numeric"
          autocomplete="off"
          maxlength="8"
        />
        <TroubleNote :trouble="trouble" />
        <ActRow end><button class="act" type="submit" :disabled="busy">It is me</button></ActRow>
      </form>
    </DialogBox>
  </div>
</template>

<style scoped>
form {
  display: grid;
  gap: 12px;
}
</style>
