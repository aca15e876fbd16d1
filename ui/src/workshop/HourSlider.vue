<script setup lang="ts">
import { timeOfDay } from '../shared/habit'
import { timeOf } from '../shared/minutes'

// A stretch of a day's hours as a bar whose ends are dragged.
defineProps<{ day: string; hours: { fromMinute: number; toMinute: number } }>()
const emit = defineEmits<{ drag: [ends: number[]] }>()
</script>

<template>
  <el-slider
    range
    :show-tooltip="false"
    :model-value="[hours.fromMinute, hours.toMinute]"
    :min="0"
    :max="1440"
    :step="15"
    :format-value-text="(m: number) => timeOfDay(timeOf(m))"
    :range-start-label="`${day}, the bar’s beginning`"
    :range-end-label="`${day}, the bar’s end`"
    :validate-event="false"
    @update:model-value="emit('drag', $event as number[])"
  />
</template>
