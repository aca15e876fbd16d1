<script setup lang="ts">
import { computed } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import { moment } from '../shared/time'
import { say } from '../shared/toast'
import { canPasskeys, makePasskey } from './passkeys'
import { thisKind } from './useMe'

// Keys that a device keeps, by which one comes in without a password.
const { data: passkeys } = useAnswer('/api/passkeys')
const { tell, busy, trouble } = useAct()
const why = computed(() => {
  if (!passkeys.value) return ''
  if (!passkeys.value.possible)
    return 'A passkey belongs to a name, and you reached the studio by an address in numbers. Give its computer a name in your house (TIDYKILN_NAMES) and open it by that.'
  return canPasskeys() ? '' : 'This browser keeps no passkeys.'
})

async function make() {
  if (await tell(() => makePasskey(thisKind()))) say({ text: 'From now on you come in by this passkey.' })
}
async function remove(id: number) {
  await tell(() => answerOf(api.POST('/api/passkeys/{id}/remove', { params: { path: { id } } })))
  if (!trouble.value) say({ text: 'The passkey is forgotten.' })
}
</script>

<template>
  <div v-if="passkeys" class="passkeys">
    <h3>Passkeys</h3>
    <p v-if="why" class="quiet">{{ why }}</p>
    <ul v-if="passkeys.keys.length">
      <li v-for="k in passkeys.keys" :key="k.id">
        <span
          >{{ k.device || 'a device' }}
          <span class="quiet"
            >for {{ k.host }}, made {{ moment(k.createdAt, thisMinute)
            }}{{ k.usedAt ? `, used ${moment(k.usedAt, thisMinute)}` : '' }}</span
          ></span
        >
        <button
          class="side"
          type="button"
          :disabled="busy"
          :aria-label="`Forget the passkey of ${k.device || 'a device'}`"
          @click="remove(k.id)"
        >
          Forget
        </button>
      </li>
    </ul>
    <button v-if="!why" class="side" type="button" :disabled="busy" @click="make">Make a passkey on this device</button>
  </div>
</template>

<style scoped>
.passkeys {
  display: grid;
  gap: 8px;
  justify-items: start;
}
ul {
  width: 100%;
}
li {
  display: flex;
  gap: 14px;
  align-items: center;
  justify-content: space-between;
  min-height: 48px;
  border-bottom: 1px solid var(--line);
}
</style>
