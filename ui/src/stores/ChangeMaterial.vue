<script setup lang="ts">
import { plainDecimal } from '../shared/reading'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import ClashNote from '../shared/ClashNote.vue'
import { useDraft } from '../shared/draft'
import SaveTrouble from '../shared/SaveTrouble.vue'
import { say } from '../shared/toast'
import MaterialFields from './MaterialFields.vue'
import { materialBody, materialNames, materialText, unreadable } from './materialForm'

const props = defineProps<{ card: Schemas['MaterialCard'] }>()
const emit = defineEmits<{ saved: []; gone: [] }>()
const { act, tell, refuse, busy, trouble, fault } = useAct()
const { form, version, clashes, keepMine, takeTheirs } = useDraft(() => props.card, materialText)
const path = { params: { path: { id: props.card.id } } }

async function save() {
  const { body, unread: field } = materialBody(form.value!)
  if (field) return refuse(field, unreadable(field, form.value!))
  const unitCost = props.card.counted ? '' : plainDecimal(form.value!.unitCost)
  const saved = await act(() =>
    answerOf(api.PUT('/api/materials/{id}', { ...path, body: { ...body, unitCost, version: version.value } })),
  )
  if (!saved) return
  say({ text: 'Saved. What pieces cost follows.' })
  emit('saved')
}
async function putAway() {
  await tell(() =>
    answerOf(api.POST('/api/materials/{id}/archive', { ...path, body: { version: props.card.version } })),
  )
  if (trouble.value) return
  say({ text: `${props.card.name} is out of the stores. Recipes that name it keep its cost.` })
  emit('gone')
}
</script>

<template>
  <form v-if="form" class="panel" novalidate @submit.prevent="save">
    <MaterialFields v-model="form" :fault="fault" :counted="card.counted" />
    <SaveTrouble :trouble="trouble" />
    <ClashNote :clashes="clashes" :names="materialNames" @mine="keepMine" @theirs="takeTheirs" />
    <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'Save' }}</button>
    <button class="word" type="button" :disabled="busy" @click="putAway">Take it out of the stores</button>
  </form>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 10px;
  padding: 12px;
  border: 1px solid var(--line);
  background: var(--paper);
}
.word {
  justify-self: start;
}
</style>
