<script setup lang="ts">
// A tick with its words, large enough for a thumb.
defineProps<{ small?: boolean; disabled?: boolean }>()
const model = defineModel<boolean>()
</script>

<template>
  <el-checkbox
    class="tick"
    :class="{ small }"
    :model-value="model ?? false"
    :disabled="disabled"
    :validate-event="false"
    @update:model-value="model = Boolean($event)"
    ><slot
  /></el-checkbox>
</template>

<style scoped>
.tick.tick {
  display: flex;
}
.tick.small.small {
  display: inline-flex;
  margin-right: 14px;
}
</style>
