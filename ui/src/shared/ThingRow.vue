<script setup lang="ts">
import { computed } from 'vue'
import { useTray, type TrayKind } from './tray'

// A line of a list that opens its thing in the tray, and is marked while the thing lies there.
// Columns, gaps and height are the list's own.
const props = defineProps<{ kind: TrayKind; id: number }>()
const { open, shown } = useTray()
const picked = computed(() => shown.value?.kind === props.kind && shown.value.id === props.id)
</script>

<template>
  <button type="button" class="thing" :class="{ picked }" @click="open(kind, id)"><slot /></button>
</template>

<style scoped>
.thing {
  display: grid;
  align-items: center;
  width: 100%;
  border: 0;
  border-bottom: 1px solid var(--line);
  background: none;
  text-align: left;
  overflow-wrap: anywhere;
  cursor: pointer;
}
.thing:hover,
.picked {
  background: var(--sheet);
}
.thing:hover :deep(.name) {
  text-decoration: underline;
}
</style>
