<script setup lang="ts">
// A form in the tray whose act stays in sight at its foot: the fields scroll, and
// nothing lies over them, so that no press misses while answers come in.
const emit = defineEmits<{ send: [] }>()
</script>

<template>
  <form class="footed" novalidate @submit.prevent="emit('send')">
    <div class="body"><slot /></div>
    <div class="foot"><slot name="foot" /></div>
  </form>
</template>

<style scoped>
.footed {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
}
.body {
  flex: 1;
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-height: 0;
  margin: 0 -18px;
  padding: 3px 18px 12px;
  overflow-y: auto;
}
.body > :deep(*) {
  flex: none;
}
.foot {
  margin: 0 -18px;
  padding: 8px 18px 12px;
  border-top: 1px solid var(--line);
}
.foot :deep(.note) {
  margin-bottom: 8px;
}
.foot :deep(.act) {
  width: 100%;
  min-height: 48px;
}
</style>
