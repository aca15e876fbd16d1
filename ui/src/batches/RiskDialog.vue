<script setup lang="ts">
import AskDialog from '../shared/AskDialog.vue'

defineProps<{ why: string; early: boolean }>()
const emit = defineEmits<{ wait: []; accept: [] }>()
</script>

<template>
  <AskDialog :title="early ? 'The rest is not over' : 'Something speaks against it'" :why="why" @wait="emit('wait')">
    If you begin now it is kept on the record, so that you can see later what it cost.
    <template #acts>
      <button class="side" type="button" @click="emit('accept')">I accept the risk</button>
      <button class="act" type="button" @click="emit('wait')">{{ early ? 'Let it rest' : 'Leave it for now' }}</button>
    </template>
  </AskDialog>
</template>
