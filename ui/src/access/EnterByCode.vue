<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import TextField from '../shared/TextField.vue'
import TroubleNote from '../shared/TroubleNote.vue'
import { useEntering } from './useEntering'

// A device that has scanned the owner's code. The code stands behind the address's mark,
// so that no server and no log is told it; it is taken out of the address once it is read.
const route = useRoute()
const { act, busy, trouble, fault } = useAct()
const entering = useEntering()
const code = ref(route.hash.slice(1))

async function enter() {
  const me = await act(() => answerOf(api.POST('/api/sign-in/pairing', { body: { code: code.value } })))
  if (me) await entering(me, '/')
}
onMounted(() => {
  if (code.value) history.replaceState(history.state, '', '/pair')
})
</script>

<template>
  <h1 id="door">Let this device in</h1>
  <form novalidate @submit.prevent="enter">
    <p class="quiet">The code works once. Until the owner ends it, whoever holds this device is in.</p>
    <TextField
      v-model="code"
      label="Code"
      :fault="fault('code')"
      autocomplete="off"
      spellcheck="false"
      maxlength="60"
    />
    <TroubleNote :trouble="trouble" />
    <button class="act" type="submit" :disabled="busy">Come in</button>
  </form>
</template>
