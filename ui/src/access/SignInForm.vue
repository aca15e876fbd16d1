<script setup lang="ts">
import { ref } from 'vue'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import TextField from '../shared/TextField.vue'
import TroubleNote from '../shared/TroubleNote.vue'
import { canPasskeys, enterByPasskey } from './passkeys'
import { useEntering } from './useEntering'
import { thisKind } from './useMe'

const emit = defineEmits<{ forgotten: [] }>()
const { act, busy, trouble, fault } = useAct()
const entering = useEntering()
const name = ref('')
const password = ref('')
const device = thisKind()
// a key belongs to a name; an address alone has none
const named = !/^[\d.]+$|^\[/.test(location.hostname)

async function enter() {
  const body = { name: name.value, password: password.value, device }
  const me = await act(() => answerOf(api.POST('/api/sign-in', { body })))
  if (me) await entering(me)
}
async function byPasskey() {
  const me = await act(() => enterByPasskey(device))
  if (me) await entering(me)
}
</script>

<template>
  <h1 id="door">Who is there?</h1>
  <form novalidate @submit.prevent="enter">
    <TextField
      v-model="name"
      label="Name"
      :fault="fault('name')"
      autocomplete="username"
      autocapitalize="words"
      maxlength="80"
    />
    <TextField
      v-model="password"
      label="Password"
      type="password"
      :fault="fault('password')"
      autocomplete="current-password"
      maxlength="200"
    />
    <TroubleNote :trouble="trouble" />
    <button class="act" type="submit" :disabled="busy">Come in</button>
    <button v-if="named && canPasskeys()" class="side" type="button" :disabled="busy" @click="byPasskey">
      Come in by a passkey
    </button>
    <button class="word" type="button" @click="emit('forgotten')">The password is forgotten</button>
  </form>
  <p class="quiet">
    A phone for the bench needs no password: the owner shows it a code, under Workshop, Who may come in.
  </p>
</template>
