<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { personId as personIdHere } from '../shared/settings'
import { useWorkshop } from '../shared/useWorkshop'
import PickField from '../shared/PickField.vue'
import TextField from '../shared/TextField.vue'
import TroubleNote from '../shared/TroubleNote.vue'
import RecoveryCodes from './RecoveryCodes.vue'
import { useEntering } from './useEntering'
import { thisKind } from './useMe'

// The first owner of a studio that has been open to its own machine until now.
const emit = defineEmits<{ begun: []; done: [] }>()
const { people } = useWorkshop()
const { act, busy, trouble, fault } = useAct()
const entering = useEntering()
const name = ref('')
const password = ref('')
const personId = ref<number>()
const codes = ref<string[]>([])
const me = ref<Schemas['Me']>()
// Whoever is at this device is likely the one.
watch(
  people,
  (all) => {
    const here = all.find((p) => p.id === personIdHere.value)
    if (!here || name.value) return
    name.value = here.name
    personId.value = here.id
  },
  { immediate: true },
)
const choices = computed(() => [
  { value: undefined, name: 'nobody at the bench' },
  ...people.value.map((p) => ({ value: p.id as number | undefined, name: p.name })),
])

async function setUp() {
  const body = { name: name.value, password: password.value, personId: personId.value, device: thisKind() }
  emit('begun')
  const made = await act(() => answerOf(api.POST('/api/owner', { body })))
  if (!made) return emit('done')
  codes.value = made.recoveryCodes
  me.value = made.me
}
async function done() {
  await entering(me.value!)
  emit('done')
}
</script>

<template>
  <RecoveryCodes v-if="codes.length" :codes="codes" @kept="done" />
  <div v-else class="set-up">
    <p>
      Until now the studio is open to whoever sits at this computer, and no other device reaches it. With an owner
      everybody signs in, here too, and phones at the bench can come in.
    </p>
    <form novalidate @submit.prevent="setUp">
      <TextField
        v-model="name"
        label="Your name, to sign in with"
        :fault="fault('name')"
        autocomplete="username"
        maxlength="80"
      />
      <PickField v-model="personId" label="At the bench you are" :fault="fault('personId')" :choices="choices" />
      <TextField
        v-model="password"
        label="Password"
        type="password"
        :fault="fault('password')"
        hint="At least 10 characters; a few words in a row are easy to keep in mind."
        autocomplete="new-password"
        maxlength="200"
      />
      <TroubleNote :trouble="trouble" />
      <button class="act" type="submit" :disabled="busy">Be the owner</button>
    </form>
  </div>
</template>

<style scoped>
.set-up,
form {
  display: grid;
  gap: 12px;
  max-width: 460px;
}
.act {
  justify-self: start;
}
</style>
