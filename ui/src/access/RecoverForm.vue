<script setup lang="ts">
import { ref } from 'vue'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import TextField from '../shared/TextField.vue'
import TroubleNote from '../shared/TroubleNote.vue'
import { useEntering } from './useEntering'
import { thisKind } from './useMe'

const emit = defineEmits<{ back: [] }>()
const { act, busy, trouble, fault } = useAct()
const entering = useEntering()
const name = ref('')
const code = ref('')
const password = ref('')

async function recover() {
  const body = { name: name.value, code: code.value, password: password.value, device: thisKind() }
  const me = await act(() => answerOf(api.POST('/api/sign-in/recover', { body })))
  if (me) await entering(me)
}
</script>

<template>
  <h1 id="door">The password is forgotten</h1>
  <form novalidate @submit.prevent="recover">
    <p class="quiet">
      A recovery code works once. With it you choose a new password, and everything that was in by the old one is out.
    </p>
    <TextField v-model="name" label="Name" :fault="fault('name')" autocomplete="username" maxlength="80" />
    <TextField
      v-model="code"
      label="Recovery code"
      :fault="fault('code')"
      autocomplete="off"
      spellcheck="false"
      maxlength="60"
    />
    <TextField
      v-model="password"
      label="New password"
      type="password"
      :fault="fault('password')"
      hint="At least 10 characters; a few words in a row are easy to keep in mind."
      autocomplete="new-password"
      maxlength="200"
    />
    <TroubleNote :trouble="trouble" />
    <button class="act" type="submit" :disabled="busy">Set it and come in</button>
    <button class="word" type="button" @click="emit('back')">Back</button>
  </form>
  <p class="quiet">
    No code left? An owner sets another password for you. For an owner’s own, type
    <code>tidykiln owner reset</code> on the studio’s computer.
  </p>
</template>
