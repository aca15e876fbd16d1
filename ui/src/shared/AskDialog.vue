<script setup lang="ts">
import ActRow from './ActRow.vue'
import DialogBox from './dialog'
// Asks before something is done that the rules speak against; closing it is the answer that does nothing.
defineProps<{ title: string; why: string }>()
const emit = defineEmits<{ wait: [] }>()
</script>

<template>
  <DialogBox :model-value="true" :title="title" width="460" @close="emit('wait')">
    <p>{{ why }}</p>
    <p class="quiet"><slot /></p>
    <template #footer>
      <ActRow end><slot name="acts" /></ActRow>
    </template>
  </DialogBox>
</template>

<style scoped>
p + p {
  margin-top: 8px;
}
</style>
