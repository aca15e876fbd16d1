<script setup lang="ts">
import { computed } from 'vue'
import CountField from '../shared/CountField.vue'
import DateField from '../shared/DateField.vue'
import FieldPair from '../shared/FieldPair.vue'
import { addDays } from '../shared/time'

// When an order is handed over, and, where it is on its way then, when it is at
// the customer's: either day is said, and the other is counted from it.
defineProps<{ fault: (field: string) => string }>()
const dueOn = defineModel<string>('dueOn', { required: true })
const days = defineModel<number>('daysOnTheWay', { required: true })

const there = computed({
  get: () => (dueOn.value ? addDays(dueOn.value, days.value) : ''),
  set: (day) => (dueOn.value = day ? addDays(day, -days.value) : ''),
})
</script>

<template>
  <FieldPair least="130px">
    <DateField v-model="dueOn" label="Due on" :fault="fault('dueOn')" />
    <CountField v-model="days" label="Days on the way" :most="60" :fault="fault('daysOnTheWay')" />
    <DateField v-if="days > 0" v-model="there" label="Arrives by" />
  </FieldPair>
</template>
