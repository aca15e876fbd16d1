<script setup lang="ts">
import { useId } from 'vue'

// A labelled field with its fault beside it. The slot receives what ties the control to both.
defineProps<{ label: string; fault?: string; hint?: string; bare?: boolean }>()
const id = useId()
</script>

<template>
  <div class="field">
    <label :for="id" :class="{ spoken: bare }">{{ label }}</label>
    <slot
      :id="id"
      :described="fault ? `${id}-fault` : hint ? `${id}-hint` : undefined"
      :invalid="fault ? true : undefined"
    />
    <p v-if="fault" :id="`${id}-fault`" class="fault" role="alert">{{ fault }}</p>
    <p v-else-if="hint" :id="`${id}-hint`" class="quiet">{{ hint }}</p>
  </div>
</template>

<style scoped>
.field {
  display: grid;
  gap: 4px;
  min-width: 0;
}
label {
  font-size: 14px;
  color: var(--soft);
}
.fault {
  color: var(--brick);
  font-size: 14px;
  font-weight: 600;
}
/* what stands for a control that comes in a moment, as tall as it */
:slotted(.coming) {
  min-height: var(--el-component-size);
  padding: 4px 10px;
  border: 1px solid var(--edge);
  border-radius: var(--radius);
  background: var(--sheet);
  font-size: 15px;
  line-height: 28px;
  overflow: hidden;
  white-space: nowrap;
}
</style>
