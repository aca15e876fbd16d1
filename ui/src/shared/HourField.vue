<script setup lang="ts">
import { ref } from 'vue'
import { timeOfDay } from './habit'
import { noTime, timeIn } from './reading'
import TextField from './TextField.vue'

// A time of day that is typed, where a clock to pick it from would be in the way.
defineProps<{ label: string; fault?: string; bare?: boolean; wrong?: boolean }>()
const model = defineModel<string>({ required: true })
const unread = ref<string | null>(null)

function take(text: string) {
  const time = timeIn(text)
  unread.value = time === null ? text : null
  if (time !== null) model.value = time
}
</script>

<template>
  <TextField
    lazy
    :bare="bare"
    :label="label"
    :model-value="unread ?? timeOfDay(model)"
    :fault="unread === null ? fault : noTime"
    :wrong="wrong"
    maxlength="12"
    @update:model-value="take(String($event))"
  />
</template>
