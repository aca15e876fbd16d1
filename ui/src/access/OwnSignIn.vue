<script setup lang="ts">
import { ref } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { shut } from '../api/door'
import { readAgain } from '../api/queries'
import { useAct } from '../shared/act'
import FieldPair from '../shared/FieldPair.vue'
import TextField from '../shared/TextField.vue'
import TroubleNote from '../shared/TroubleNote.vue'
import { say } from '../shared/toast'
import OwnPasskeys from './OwnPasskeys.vue'
import RecoveryCodes from './RecoveryCodes.vue'
import { roles } from './useMe'

// One's own sign-in: the password, the PIN for shared devices, codes for the day it is forgotten.
defineProps<{ me: Schemas['Me'] }>()
const { act, tell, busy, trouble, fault } = useAct()
const open = ref<'password' | 'pin' | 'codes' | null>(null)
const old = ref('')
const fresh = ref('')
const pin = ref('')
const codes = ref<string[]>([])

function begin(what: typeof open.value) {
  open.value = open.value === what ? null : what
  old.value = fresh.value = pin.value = ''
  trouble.value = null
}
async function changePassword() {
  const body = { old: old.value, new: fresh.value }
  if (!(await act(() => answerOf(api.POST('/api/password', { body }))))) return
  begin(null)
  say({ text: 'The password is another. What was in by the old one is out.' })
}
async function setPIN() {
  const none = pin.value === ''
  if (!(await act(() => answerOf(api.POST('/api/pin', { body: { pin: pin.value } }))))) return
  begin(null)
  say({ text: none ? 'No PIN is asked of you now.' : 'The PIN is set.' })
}
async function renewCodes() {
  const made = await act(() => answerOf(api.POST('/api/recovery-codes', { body: { password: old.value } })))
  if (!made) return
  begin(null)
  codes.value = made.codes
}
async function leave() {
  if (!(await tell(() => answerOf(api.POST('/api/sign-out'))))) return
  shut.value = true
  await readAgain()
}
</script>

<template>
  <section aria-labelledby="own">
    <h2 id="own">This sign-in</h2>
    <p>
      <b>{{ me.member || me.device }}</b><template v-if="me.role"
        >, {{ roles[me.role].name.toLowerCase() }}: {{ roles[me.role].may }}.</template
      >
    </p>
    <template v-if="me.memberId">
      <div class="acts">
        <button class="side" type="button" :aria-expanded="open === 'password'" @click="begin('password')">
          Another password
        </button>
        <button class="side" type="button" :aria-expanded="open === 'pin'" @click="begin('pin')">
          {{ me.hasPin ? 'Another PIN' : 'A PIN for shared phones' }}
        </button>
        <button class="side" type="button" :aria-expanded="open === 'codes'" @click="begin('codes')">
          New recovery codes
        </button>
      </div>
      <form v-if="open === 'password'" novalidate @submit.prevent="changePassword">
        <FieldPair least="150px">
          <TextField
            v-model="old"
            label="The password until now"
            type="password"
            :fault="fault('old')"
            autocomplete="current-password"
            maxlength="200"
          />
          <TextField
            v-model="fresh"
            label="The new one"
            type="password"
            :fault="fault('new')"
            autocomplete="new-password"
            maxlength="200"
          />
        </FieldPair>
        <TroubleNote :trouble="trouble" />
        <button class="act" type="submit" :disabled="busy">Set it</button>
      </form>
      <form v-if="open === 'pin'" novalidate @submit.prevent="setPIN">
        <TextField
          v-model="pin"
          label="PIN"
          :fault="fault('pin')"
          hint="4 to 8 digits. It says that it is you who holds a shared phone, and opens nothing else. Empty for none."
          inputmode="numeric"
          autocomplete="off"
          maxlength="8"
        />
        <TroubleNote :trouble="trouble" />
        <button class="act" type="submit" :disabled="busy">Set it</button>
      </form>
      <form v-if="open === 'codes'" novalidate @submit.prevent="renewCodes">
        <TextField
          v-model="old"
          label="Your password"
          type="password"
          :fault="fault('password')"
          hint="The codes until now do not work any more then."
          autocomplete="current-password"
          maxlength="200"
        />
        <TroubleNote :trouble="trouble" />
        <button class="act" type="submit" :disabled="busy">Make new codes</button>
      </form>
      <RecoveryCodes v-if="codes.length" :codes="codes" @kept="codes = []" />
      <OwnPasskeys />
    </template>
    <button class="side" type="button" :disabled="busy" @click="leave">Sign out</button>
  </section>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
}
</style>
