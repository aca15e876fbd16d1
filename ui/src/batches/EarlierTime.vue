<script setup lang="ts">
import TimeField from '../shared/TimeField.vue'
import DateField from '../shared/DateField.vue'
import { computed } from 'vue'
import { now } from '../shared/clock'
import { momentIn } from '../shared/time'
import FieldPair from '../shared/FieldPair.vue'

// A moment that is past: a day and a clock time, in the workshop's zone.
const props = defineProps<{ label: string; fault?: string }>()
const model = defineModel<{ date: string; time: string }>({ required: true })
const future = computed(
  () => model.value.time !== '' && momentIn(model.value.date, model.value.time).getTime() > now.value,
)
const said = computed(() => props.fault || (future.value ? 'This is still to come.' : ''))
</script>

<template>
  <fieldset>
    <legend>{{ label }}</legend>
    <FieldPair columns="3fr 2fr">
      <DateField v-model="model.date" bare :label="`${label}: day`" />
      <TimeField v-model="model.time" bare :label="`${label}: time`" :wrong="said !== ''" />
    </FieldPair>
    <p v-if="said" class="bad" role="alert">{{ said }}</p>
  </fieldset>
</template>
