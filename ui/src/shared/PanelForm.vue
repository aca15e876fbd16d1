<script setup lang="ts">
import type { Trouble } from '../api/client'
import ActRow from './ActRow.vue'
import TroubleNote from './TroubleNote.vue'

// A small form within a tray: it is sent, or left.
defineProps<{
  label: string
  act: string
  acting: string
  busy: boolean
  trouble: Trouble | null
  disabled?: boolean
}>()
const emit = defineEmits<{ send: []; leave: [] }>()
</script>

<template>
  <form class="panel" novalidate :aria-label="label" @submit.prevent="emit('send')">
    <slot />
    <TroubleNote :trouble="trouble" />
    <ActRow>
      <button class="act" type="submit" :disabled="busy || disabled">{{ busy ? acting : act }}</button>
      <button class="word" type="button" @click="emit('leave')">Leave it</button>
    </ActRow>
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
</style>
