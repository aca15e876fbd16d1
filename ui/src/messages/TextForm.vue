<script setup lang="ts">
import { computed } from 'vue'
import { answerOf, api, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import ActRow from '../shared/ActRow.vue'
import ClashNote from '../shared/ClashNote.vue'
import { useDraft } from '../shared/draft'
import SaveTrouble from '../shared/SaveTrouble.vue'
import { runs } from '../shared/settings'
import TextField from '../shared/TextField.vue'
import { say } from '../shared/toast'

// The text of one kind of message.
const props = defineProps<{ text: Schemas['MessageTemplate'] }>()
const { act, busy, trouble, fault } = useAct()
const { form, version, clashes, keepMine, takeTheirs } = useDraft(
  () => props.text,
  ({ subject, body }) => ({ subject, body }),
)
const names = { subject: 'Subject', body: 'Text' }
const own = computed(
  () => form.value?.subject !== props.text.standardSubject || form.value?.body !== props.text.standardBody,
)
function asItCame() {
  form.value!.subject = props.text.standardSubject
  form.value!.body = props.text.standardBody
}
async function save() {
  const body = { ...form.value!, kind: props.text.kind, version: version.value }
  await act(() => answerOf(api.PUT('/api/message-templates', { body })))
  if (!trouble.value) say({ text: `“${props.text.called}” is saved.` })
}
</script>

<template>
  <form v-if="form" class="text" novalidate :aria-label="text.called" @submit.prevent="save">
    <TextField v-model="form.subject" :label="names.subject" :fault="fault('subject')" maxlength="200" />
    <TextField v-model="form.body" :label="names.body" :rows="9" :fault="fault('body')" maxlength="4000" />
    <SaveTrouble :trouble="trouble" />
    <ClashNote :clashes="clashes" :names="names" @mine="keepMine" @theirs="takeTheirs" />
    <ActRow v-if="runs">
      <button class="act" type="submit" :disabled="busy">{{ busy ? 'Saving' : 'Save' }}</button>
      <button v-if="own" class="word" type="button" @click="asItCame">As it came</button>
    </ActRow>
  </form>
</template>

<style scoped>
.text {
  display: grid;
  gap: 10px;
  padding-bottom: 10px;
}
</style>
