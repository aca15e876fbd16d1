<script setup lang="ts">
import { timeFormat } from './habit'
import FieldRow from './FieldRow.vue'
import { nameOpened, saidOf } from './said'

// A time of day such as 14:10, typed or picked by the studio's own clock.
defineProps<{ label: string; fault?: string; hint?: string; bare?: boolean; wrong?: boolean }>()
const model = defineModel<string>({ required: true })
</script>

<template>
  <FieldRow v-slot="f" :label="label" :fault="fault" :hint="hint" :bare="bare">
    <el-time-picker
      :id="f.id"
      :model-value="model"
      :format="timeFormat()"
      value-format="HH:mm"
      :clearable="false"
      :automatic-dropdown="false"
      :validate-event="false"
      :placeholder="timeFormat().toLowerCase()"
      @update:model-value="model = $event ?? ''"
      @visible-change="nameOpened(f.id, label)"
      @vue:updated="saidOf(f.id, f.described, f.invalid || wrong)"
      @vue:mounted="saidOf(f.id, f.described, f.invalid || wrong)"
    />
  </FieldRow>
</template>
