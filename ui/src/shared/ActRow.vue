<script setup lang="ts">
// Acts beside each other; the row breaks before a name does.
defineProps<{ end?: boolean }>()
</script>

<template>
  <div class="acts" :class="{ end }"><slot /></div>
</template>

<style scoped>
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
}
.end {
  justify-content: flex-end;
}
</style>
