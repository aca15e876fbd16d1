<script setup lang="ts">
// The sign of what is ready for hands; closing says that its window ends.
defineProps<{ closing: boolean }>()
</script>

<template>
  <i class="ring drawn" :class="{ closing }" />
</template>

<style scoped>
.ring {
  width: 20px;
  height: 20px;
  margin-top: 2px;
  border: 3px solid var(--glaze);
  border-radius: 50%;
}
.ring.closing {
  background: conic-gradient(var(--glaze) 0 30%, transparent 30%);
}
</style>
