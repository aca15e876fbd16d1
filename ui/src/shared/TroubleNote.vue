<script setup lang="ts">
import { computed } from 'vue'
import type { Trouble } from '../api/client'

// Why something was not done. What belongs to a field is said beside the field, and
// here only where asked to be said as well.
const props = defineProps<{ trouble: Trouble | null; whole?: boolean }>()
const shown = computed(() => {
  const t = props.trouble
  return t !== null && (props.whole || Object.keys(t.fields).length === 0)
})
</script>

<template>
  <el-alert v-if="shown" class="note brick" type="error" :closable="false" :title="trouble!.message" />
</template>
