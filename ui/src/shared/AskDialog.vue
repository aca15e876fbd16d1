<script setup lang="ts">
// Asks before something is done that the rules speak against; closing it is the answer that does nothing.
defineProps<{ title: string; why: string }>()
const emit = defineEmits<{ wait: [] }>()
</script>

<template>
  <el-dialog :model-value="true" :title="title" width="460" @close="emit('wait')">
    <p>{{ why }}</p>
    <p class="quiet"><slot /></p>
    <template #footer>
      <div class="acts"><slot name="acts" /></div>
    </template>
  </el-dialog>
</template>

<style scoped>
p + p {
  margin-top: 8px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  gap: 8px;
}
</style>
