<script setup lang="ts">
import FieldRow from './FieldRow.vue'
import { saidOf } from './said'

// A small whole number that is counted up and down, or typed.
withDefaults(defineProps<{ label: string; least?: number; most: number; fault?: string; hint?: string }>(), {
  least: 0,
  fault: undefined,
  hint: undefined,
})
const model = defineModel<number>({ required: true })
</script>

<template>
  <FieldRow v-slot="f" :label="label" :fault="fault" :hint="hint">
    <el-input-number
      :id="f.id"
      :model-value="model"
      :min="least"
      :max="most"
      :precision="0"
      :validate-event="false"
      @update:model-value="model = $event ?? least"
      @vue:updated="saidOf(f.id, f.described, f.invalid)"
      @vue:mounted="saidOf(f.id, f.described, f.invalid)"
    />
  </FieldRow>
</template>
