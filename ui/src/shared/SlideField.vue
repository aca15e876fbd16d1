<script setup lang="ts">
import { computed } from 'vue'
import { figure } from './habit'

// A number that is slid between two ends, with what stands there beside it.
const props = defineProps<{ label: string; least: number; most: number; hint?: string; unit?: string; step?: number }>()
const model = defineModel<number>({ required: true })
const said = computed(() => `${figure(model.value)}${props.unit ?? ''}`)
</script>

<template>
  <div class="slide">
    <p class="name" aria-hidden="true">
      {{ label }} <b>{{ said }}</b>
    </p>
    <el-slider
      v-model="model"
      :min="least"
      :max="most"
      :step="step ?? 1"
      :show-tooltip="false"
      :aria-label="label"
      :format-value-text="() => said"
      :validate-event="false"
    />
    <p v-if="hint" class="quiet">{{ hint }}</p>
  </div>
</template>

<style scoped>
.slide {
  display: grid;
  gap: 2px;
  padding: 0 10px 0 2px;
}
.name {
  display: flex;
  justify-content: space-between;
  color: var(--soft);
  font-size: 14px;
}
.name b {
  color: var(--ink);
  font-weight: 600;
}
.el-slider {
  padding: 0 10px;
  height: 32px;
}
</style>
