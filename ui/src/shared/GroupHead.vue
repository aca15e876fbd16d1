<script setup lang="ts">
// The head of a group in a list, with a count or a word on the group at its end.
defineProps<{ name: string; count?: string }>()
</script>

<template>
  <div class="group">
    <h2>{{ name }}</h2>
    <span v-if="count" class="quiet">{{ count }}</span>
  </div>
</template>

<style scoped>
.group {
  display: flex;
  gap: 4px 16px;
  justify-content: space-between;
  align-items: baseline;
  margin-top: 16px;
  padding-bottom: 5px;
  border-bottom: 1px solid var(--edge);
}
</style>
