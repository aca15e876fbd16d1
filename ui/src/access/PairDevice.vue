<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { rightNow } from '../shared/clock'
import { clock } from '../shared/time'
import FieldPair from '../shared/FieldPair.vue'
import PickField from '../shared/PickField.vue'
import TextField from '../shared/TextField.vue'
import TroubleNote from '../shared/TroubleNote.vue'
import { say } from '../shared/toast'
import { roles } from './useMe'

// A code that one device scans, or types, to come in.
defineProps<{ house: Schemas['House'] }>()
const { data: members } = useAnswer('/api/members')
const { act, busy, trouble, fault } = useAct()
const device = ref('')
const whose = ref<string>('helper')
const code = ref<Schemas['PairingCode'] | null>(null)

const choices = computed(() => [
  ...(['helper', 'maker', 'viewer'] as const).map((r) => ({
    value: r as string,
    name: `Shared: ${roles[r].name.toLowerCase()}`,
  })),
  ...(members.value ?? [])
    .filter((m) => m.role !== 'owner')
    .map((m) => ({ value: String(m.id), name: `${m.name}’s own` })),
])
const hint = computed(() => (whose.value in roles ? `Whoever holds it: ${roles[whose.value as 'helper'].may}.` : ''))

async function show() {
  const role = whose.value in roles ? (whose.value as 'helper') : undefined
  const body = { device: device.value, role, memberId: role ? undefined : Number(whose.value) }
  code.value = (await act(() => answerOf(api.POST('/api/pairings', { body })))) ?? null
}

const { data: state } = useAnswer('/api/pairings/{id}', () => ({ path: { id: code.value?.id ?? 0 } }), {
  enabled: computed(() => code.value !== null),
  again: () => 2000,
})
watch(state, (is) => {
  if (!is?.done || !code.value) return
  code.value = null
  say({ text: `${device.value} is in.` })
  device.value = ''
})
const over = computed(() => state.value?.over || (code.value && Date.parse(code.value.endsAt) < rightNow()))
</script>

<template>
  <section aria-labelledby="pair">
    <h2 id="pair">Let a device in</h2>
    <p v-if="!house.address" class="note">
      Only this computer reaches the studio yet, so a phone cannot. Stop it, set
      <code>TIDYKILN_ADDRESS=0.0.0.0:8420</code>, and start it again: then it answers in your house, encrypted.
    </p>
    <form v-if="!code" novalidate @submit.prevent="show">
      <FieldPair least="150px">
        <TextField
          v-model="device"
          label="The device is called"
          :fault="fault('device')"
          placeholder="phone by the sink"
          maxlength="80"
        />
        <PickField
          v-model="whose"
          label="It is"
          :fault="fault('role') || fault('memberId')"
          :hint="hint"
          :choices="choices"
        />
      </FieldPair>
      <TroubleNote :trouble="trouble" />
      <button class="act" type="submit" :disabled="busy">Show the code</button>
    </form>
    <div v-else class="code">
      <img v-if="!over" :src="code.scanned" width="240" height="240" alt="The code to scan with the device’s camera" />
      <div>
        <template v-if="!over">
          <p>Scan this with the camera of “{{ device }}”. It works once, until {{ clock(code.endsAt) }}.</p>
          <p class="quiet">Or open {{ code.address.split('#')[0] }} there and type</p>
          <p class="typed">{{ code.code }}</p>
          <p v-if="house.trustPage" class="quiet">
            If the device warns of the certificate, it has not come to trust it yet: open {{ house.trustPage }} there
            first.
          </p>
        </template>
        <p v-else>This code has run out.</p>
        <button class="side" type="button" @click="code = null">{{ over ? 'Show another' : 'Leave it' }}</button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.code {
  display: flex;
  flex-wrap: wrap;
  gap: 16px;
  width: 100%;
  padding: 14px;
  border: 1px solid var(--line);
  background: var(--sheet);
}
.code > div {
  display: grid;
  flex: 1 1 200px;
  gap: 8px;
  align-content: start;
  justify-items: start;
}
.typed {
  font: 650 22px/1.3 var(--heading);
  letter-spacing: 0.04em;
}
</style>
