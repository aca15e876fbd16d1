<script setup lang="ts">
// The head of a page: its name, what is said under it, what stands beside it, and
// what can be done here at the far end.
defineProps<{ name: string }>()
</script>

<template>
  <div class="page-head">
    <div v-if="$slots.said" class="named">
      <h1>{{ name }}</h1>
      <slot name="said" />
    </div>
    <h1 v-else>{{ name }}</h1>
    <slot />
    <div v-if="$slots.acts" class="acts"><slot name="acts" /></div>
  </div>
</template>

<style scoped>
.page-head,
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  align-items: center;
}
.page-head {
  margin-bottom: 12px;
}
.named {
  flex: 1 1 300px;
}
.acts {
  gap: 8px 14px;
  margin-left: auto;
}
</style>
