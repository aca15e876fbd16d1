<script setup lang="ts">
// A switch with its words: what acts at once, where a tick waits for its form to be sent.
// The control turns by itself; the library would turn it a second time.
defineProps<{ disabled?: boolean }>()
const model = defineModel<boolean>()
const alone = (event: Event) => event.target instanceof HTMLInputElement && event.stopPropagation()
</script>

<template>
  <label class="switch" @click.capture="alone">
    <el-switch
      :model-value="model ?? false"
      :disabled="disabled"
      :validate-event="false"
      @update:model-value="model = Boolean($event)"
    />
    <span><slot /></span>
  </label>
</template>

<style scoped>
.switch {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 34px;
  cursor: pointer;
}
@media (max-width: 640px), (pointer: coarse) {
  .switch {
    min-height: 48px;
  }
}
</style>
