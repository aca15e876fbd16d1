<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { type Schemas } from '../api/client'
import ActRow from '../shared/ActRow.vue'
import PickField from '../shared/PickField.vue'
import { say } from '../shared/toast'

// Words that are ready for a customer: to copy, or to open in the mail program.
const props = defineProps<{ messages: Schemas['Message'][]; mail: string }>()
const fitting = () => (props.messages.find((m) => m.fits) ?? props.messages[0])?.kind
const kind = ref<Schemas['Message']['kind'] | undefined>(fitting())
watch(
  () => props.messages.length,
  () => (kind.value ??= fitting()),
)
const chosen = computed(() => props.messages.find((m) => m.kind === kind.value))
const choices = computed(() => props.messages.map((m) => ({ value: m.kind, name: m.called })))
const mailto = computed(() => {
  const m = chosen.value!
  return `mailto:${encodeURIComponent(m.to)}?subject=${encodeURIComponent(m.subject)}&body=${encodeURIComponent(m.body.replaceAll('\n', '\r\n'))}`
})
const file = computed(() => `${props.mail}?kind=${kind.value}&origin=${encodeURIComponent(location.origin)}`)
async function copy() {
  try {
    await navigator.clipboard.writeText(chosen.value!.body)
    say({ text: 'Copied.' })
  } catch {
    say({ text: 'This browser copies nothing by itself: mark the words and copy them.', bad: true })
  }
}
</script>

<template>
  <div v-if="chosen" class="words">
    <PickField v-if="choices.length > 1" v-model="kind" label="Message" :choices="choices" />
    <p>
      <b>{{ chosen.subject }}</b>
    </p>
    <p class="body">{{ chosen.body }}</p>
    <p v-if="chosen.missing.includes('link')" class="quiet">
      The line with the address is left out: there is no address to show it under yet.
    </p>
    <ActRow>
      <button class="side" type="button" @click="copy">Copy</button>
      <a :href="mailto">Open in the mail program</a>
      <a :href="file" download>As a file (.eml)</a>
    </ActRow>
    <p class="quiet">
      Nothing is sent from here.<template v-if="!chosen.to"> No e-mail address of theirs is known.</template>{{ ' ' }}
      <RouterLink to="/workshop/texts">Change the texts</RouterLink>
    </p>
  </div>
</template>

<style scoped>
.words {
  display: grid;
  gap: 8px;
  padding-bottom: 10px;
}
.body {
  white-space: pre-line;
  overflow-wrap: anywhere;
  padding: 10px 12px;
  border: 1px solid var(--line);
  background: var(--paper);
}
</style>
