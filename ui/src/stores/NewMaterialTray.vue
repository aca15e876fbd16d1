<script setup lang="ts">
import TroubleNote from '../shared/TroubleNote.vue'
import { plainDecimal } from '../shared/reading'
import { ref } from 'vue'
import { answerOf, api } from '../api/client'
import { useAct } from '../shared/act'
import { say } from '../shared/toast'
import { useTray } from '../shared/tray'
import MaterialFields from './MaterialFields.vue'
import { materialBody, newMaterial, unreadable } from './materialForm'
import FootedForm from '../shared/FootedForm.vue'

defineProps<{ id: number }>()
const { act, refuse, busy, trouble, fault } = useAct()
const { open } = useTray()
const form = ref(newMaterial())

async function save() {
  const { body, unread: field } = materialBody(form.value)
  if (field) return refuse(field, unreadable(field, form.value))
  const unitCost = plainDecimal(form.value.unitCost) || '0'
  const added = await act(() => answerOf(api.POST('/api/materials', { body: { ...body, unitCost } })))
  if (!added) return
  say({ text: `${added.name} is in the stores.` })
  open('material', added.id)
}
</script>

<template>
  <FootedForm @send="save">
    <h1>A material</h1>
    <div class="fields"><MaterialFields v-model="form" :fault="fault" /></div>
    <template #foot>
      <TroubleNote :trouble="trouble" whole />
      <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'Add it' }}</button>
    </template>
  </FootedForm>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 10px;
  margin: 10px 0 16px;
}
</style>
