<script setup lang="ts">
import { dateFormat } from './habit'
import FieldRow from './FieldRow.vue'
import { nameOpened, saidOf } from './said'
import { useWeek } from './useWeek'

// A day such as 2027-03-01, typed or picked in the studio's own order of dates. What day
// it may be the server says, beside the field, so that nothing typed is lost.
defineProps<{
  label: string
  fault?: string
  hint?: string
  bare?: boolean
}>()
const model = defineModel<string>({ required: true })
useWeek()
</script>

<template>
  <FieldRow v-slot="f" :label="label" :fault="fault" :hint="hint" :bare="bare">
    <el-date-picker
      :id="f.id"
      :model-value="model"
      type="date"
      :format="dateFormat()"
      value-format="YYYY-MM-DD"
      :clearable="false"
      :automatic-dropdown="false"
      :validate-event="false"
      :placeholder="dateFormat().toLowerCase()"
      @update:model-value="model = $event ?? ''"
      @visible-change="nameOpened(f.id, label)"
      @vue:updated="saidOf(f.id, f.described, f.invalid)"
      @vue:mounted="saidOf(f.id, f.described, f.invalid)"
    />
  </FieldRow>
</template>
