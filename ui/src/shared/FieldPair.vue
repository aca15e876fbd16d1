<script setup lang="ts">
// Short fields that belong together, side by side as long as each has room.
withDefaults(defineProps<{ least?: string; columns?: string }>(), { least: '110px', columns: undefined })
</script>

<template>
  <div class="fields" :style="{ gridTemplateColumns: columns ?? `repeat(auto-fit, minmax(${least}, 1fr))` }">
    <slot />
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 8px 10px;
  align-items: start;
}
</style>
