<script setup lang="ts">
import AskDialog from '../shared/AskDialog.vue'

// The stores hold too little by their books for what a step took.
defineProps<{ why: string }>()
const emit = defineEmits<{ wait: []; accept: [] }>()
</script>

<template>
  <AskDialog title="There was more than the stores know of?" :why="why" @wait="emit('wait')">
    If it was done with what was there, the stores are put right: what they lacked is entered as found at a count, and
    nothing of it is left.
    <template #acts>
      <button class="side" type="button" @click="emit('wait')">Look first</button>
      <button class="act" type="button" @click="emit('accept')">It was there: put it right</button>
    </template>
  </AskDialog>
</template>
