<script setup lang="ts">
import { ref } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import { moment } from '../shared/time'
import { say } from '../shared/toast'
import { roles } from './useMe'

// What is in, and when it was last used; what is not known any more is ended.
const { data: sessions } = useAnswer('/api/sessions')
const { tell, busy, trouble } = useAct()
const sure = ref(false)

const ways = { password: 'by password', passkey: 'by passkey', recovery: 'by a recovery code', pairing: 'by a code' }
const whose = (s: Schemas['Session']) =>
  s.member || (s.holder ? `shared, ${s.holder} holds it` : `shared, ${roles[s.role].name.toLowerCase()}`)

async function end(s: Schemas['Session']) {
  await tell(() => answerOf(api.POST('/api/sessions/{id}/end', { params: { path: { id: s.id } } })))
  if (!trouble.value) say({ text: `${s.device} is out.` })
}
async function endOthers() {
  sure.value = false
  await tell(() => answerOf(api.POST('/api/sessions/end-others')))
  if (!trouble.value) say({ text: 'Only this device is in.' })
}
</script>

<template>
  <section aria-labelledby="devices">
    <h2 id="devices">Devices that are in</h2>
    <ul>
      <li v-for="s in sessions" :key="s.id">
        <span
          ><b>{{ s.device }}</b
          ><template v-if="s.here">, this one</template> <br /><span class="quiet"
            >{{ whose(s) }}, {{ ways[s.way] }}<br />last used {{ moment(s.usedAt, thisMinute) }} from
            {{ s.address }}</span
          ></span
        >
        <button
          v-if="!s.here"
          class="side"
          type="button"
          :disabled="busy"
          :aria-label="`End ${s.device}`"
          @click="end(s)"
        >
          End
        </button>
      </li>
    </ul>
    <template v-if="(sessions?.length ?? 0) > 1">
      <button v-if="!sure" class="word" type="button" @click="sure = true">End all but this one</button>
      <button v-else class="side" type="button" :disabled="busy" @click="endOthers">Yes, end all others now</button>
    </template>
  </section>
</template>

<style scoped>
ul {
  width: 100%;
  border-top: 1px solid var(--edge);
}
li {
  display: flex;
  gap: 14px;
  align-items: center;
  justify-content: space-between;
  min-height: 48px;
  padding: 8px 0;
  border-bottom: 1px solid var(--line);
  overflow-wrap: anywhere;
}
</style>
