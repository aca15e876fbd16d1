<script setup lang="ts">
// A tick with its words, large enough for a thumb.
defineProps<{ small?: boolean; disabled?: boolean }>()
const model = defineModel<boolean>()
</script>

<template>
  <label class="tick" :class="{ small }"
    ><input v-model="model" type="checkbox" :disabled="disabled" /> <span><slot /></span
  ></label>
</template>

<style scoped>
.tick {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 34px;
}
.small {
  display: inline-flex;
  min-height: 30px;
  margin-right: 14px;
}
input {
  flex: none;
  width: 20px;
  height: 20px;
  accent-color: var(--glaze);
}
@media (max-width: 640px), (pointer: coarse) {
  .tick {
    min-height: 48px;
  }
}
</style>
