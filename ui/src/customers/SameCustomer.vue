<script setup lang="ts">
import { computed, ref } from 'vue'
import { useAnswer } from '../api/answers'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { thisMinute } from '../shared/clock'
import FoldBox from '../shared/FoldBox.vue'
import TextField from '../shared/TextField.vue'
import { moment } from '../shared/time'
import { say } from '../shared/toast'
import { useTray } from '../shared/tray'
import TroubleNote from '../shared/TroubleNote.vue'

// Two who turn out to be one: what is theirs goes to the one that stays, and can go back.
const props = defineProps<{ customer: Schemas['Customer'] }>()
const { open } = useTray()
const { act, tell, busy, trouble } = useAct()
const text = ref('')
// Nobody of a search before is offered: who is tapped is merged.
const { data: found } = useAnswer('/api/customers', () => ({ query: { text: text.value.trim(), page: 1 } }), {
  enabled: () => text.value.trim().length > 0,
})
const others = computed(() =>
  text.value.trim() ? (found.value?.rows ?? []).filter((r) => r.id !== props.customer.id).slice(0, 6) : [],
)
const { data: merges } = useAnswer('/api/customers/{id}/merges', () => ({ path: { id: props.customer.id } }))

const part = (id: number) => answerOf(api.POST('/api/customer-merges/{id}/undo', { params: { path: { id } } }))
async function undo(id: number) {
  const back = await tell(() => part(id))
  if (back) say({ text: `${back.name} is a customer of their own again.` })
}
async function merge(other: Schemas['CustomerRow']) {
  const goes = props.customer
  const stays = await act(async () => {
    const into = await answerOf(api.GET('/api/customers/{id}', { params: { path: { id: other.id } } }))
    const body = { intoId: other.id, version: goes.version, intoVersion: into.version }
    return answerOf(api.POST('/api/customers/{id}/merge', { params: { path: { id: goes.id } }, body }))
  })
  if (!stays) return
  await open('customer', stays.id)
  const done = await answerOf(api.GET('/api/customers/{id}/merges', { params: { path: { id: stays.id } } }))
  say({ text: `${goes.name} and ${stays.name} are one now.`, action: 'Undo', act: () => undo(done![0]!.id) })
}
</script>

<template>
  <FoldBox name="The same as another">
    <p class="quiet">All that is {{ customer.name }}’s goes to the other, who keeps their name.</p>
    <TextField v-model="text" type="search" label="Find the other" maxlength="120" />
    <ul>
      <li v-for="r in others" :key="r.id">
        <span
          ><b>{{ r.name }}</b> <span class="quiet">{{ r.reach }}</span></span
        >
        <button
          class="side"
          type="button"
          :disabled="busy"
          :aria-label="`Make one of them and ${r.name}`"
          @click="merge(r)"
        >
          Make one of them
        </button>
      </li>
    </ul>
    <p v-if="text.trim() && found && !others.length" class="quiet">Nobody else in whom all of that is found.</p>
    <TroubleNote :trouble="trouble" whole />
  </FoldBox>
  <ul v-if="merges?.length" aria-label="Who was merged into them">
    <li v-for="m in merges" :key="m.id">
      <span
        >{{ m.from.name }} <span class="quiet">merged {{ moment(m.at, thisMinute) }}</span></span
      >
      <button class="word" type="button" :disabled="busy" @click="undo(m.id)">Part them again</button>
    </li>
  </ul>
</template>

<style scoped>
li {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
  justify-content: space-between;
  padding: 6px 0;
  border-bottom: 1px solid var(--line);
  overflow-wrap: anywhere;
}
</style>
