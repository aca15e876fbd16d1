<script setup lang="ts">
import { computed } from 'vue'
import type { Trouble } from '../api/client'

// Why a form was not saved, when it is not one of its fields.
const props = defineProps<{ trouble: Trouble | null }>()
const words = computed(() => {
  const t = props.trouble
  if (!t || Object.keys(t.fields).length) return ''
  return t.type === '/problems/stale'
    ? 'Not saved yet: it was changed by someone since you began. What they changed is here now; look, and save again.'
    : t.message
})
</script>

<template>
  <p v-if="words" class="note brick" role="alert">{{ words }}</p>
</template>
