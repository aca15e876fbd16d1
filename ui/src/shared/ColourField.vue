<script setup lang="ts">
import TextField from './TextField.vue'

// A colour: a few that print well, or one's own.
defineProps<{ label: string; fault?: string }>()
const model = defineModel<string>({ required: true })
const few = ['#000000', '#1f1d1a', '#1d3557', '#7a1f1f', '#2f5d3a', '#6b4a1f', '#ffffff']
</script>

<template>
  <div class="colour">
    <TextField v-model="model" :label="label" :fault="fault" maxlength="7" lazy />
    <p class="few">
      <button
        v-for="c in few"
        :key="c"
        type="button"
        :aria-label="`Colour ${c}`"
        :aria-pressed="model === c"
        :style="{ background: c }"
        @click="model = c"
      />
    </p>
  </div>
</template>

<style scoped>
.colour {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 4px 12px;
  align-items: end;
}
.few {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  padding-bottom: 6px;
}
button {
  width: 28px;
  height: 28px;
  min-height: 0;
  padding: 0;
  border: 1px solid var(--edge);
  border-radius: var(--radius);
}
button[aria-pressed='true'] {
  outline: 2px solid var(--glaze);
  outline-offset: 2px;
}
</style>
