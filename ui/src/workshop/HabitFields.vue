<script setup lang="ts">
import { computed } from 'vue'
import type { Choice } from '../shared/choices'
import FieldPair from '../shared/FieldPair.vue'
import { signOf, type Habit } from '../shared/habit'
import PickField from '../shared/PickField.vue'
import { weekdays } from './weekdays'

// How the studio reads times, dates, numbers and money; every choice shows how it looks.
const props = defineProps<{ currency: string; fault: (field: string) => string }>()
const habit = defineModel<Habit>({ required: true })

const clocks: Choice<Habit['clock']>[] = [
  { value: '24h', name: '14:10' },
  { value: '12h', name: '2:10 PM' },
]
const orders: Choice<Habit['dateOrder']>[] = [
  { value: 'dmy', name: '31 May, 31/05/2027' },
  { value: 'mdy', name: 'May 31, 05/31/2027' },
  { value: 'ymd', name: 'May 31, 2027-05-31' },
]
const signs: Choice<Habit['decimalSign']>[] = [
  { value: 'point', name: 'a point, 2.5' },
  { value: 'comma', name: 'a comma, 2,5' },
]
const days: Choice<number>[] = weekdays.map((name, value) => ({ value, name }))

// The sign and where it stands are chosen together, by how they look.
const figures = computed(() => (habit.value.decimalSign === 'comma' ? '12,50' : '12.50'))
const ways = computed(() => {
  const known = [signOf(props.currency, navigator.language), habit.value.currencySign, ''].filter(
    (sign, i, all) => (sign !== '' || i === 2) && sign !== props.currency && all.indexOf(sign) === i,
  )
  return known.flatMap((sign) => [
    { sign, first: true },
    { sign, first: false },
  ])
})
const money = computed<Choice<number>[]>(() =>
  ways.value.map(({ sign, first }, value) => {
    const shown = sign || props.currency
    const space = /\p{L}$/u.test(shown) ? ' ' : ''
    return { value, name: first ? `${shown}${space}${figures.value}` : `${figures.value} ${shown}` }
  }),
)
const way = computed({
  get: () => ways.value.findIndex((w) => w.sign === habit.value.currencySign && w.first === habit.value.signFirst),
  set: (i) => {
    const chosen = ways.value[i]
    if (chosen) habit.value = { ...habit.value, currencySign: chosen.sign, signFirst: chosen.first }
  },
})
</script>

<template>
  <h2>How you read things</h2>
  <FieldPair least="150px">
    <PickField v-model="habit.clock" label="Times" :fault="fault('habit.clock')" :choices="clocks" />
    <PickField v-model="habit.dateOrder" label="Dates" :fault="fault('habit.dateOrder')" :choices="orders" />
    <PickField
      v-model="habit.firstWeekday"
      label="A week begins on"
      :fault="fault('habit.firstWeekday')"
      :choices="days"
    />
    <PickField v-model="habit.decimalSign" label="Decimals" :fault="fault('habit.decimalSign')" :choices="signs" />
    <PickField v-model="way" label="Money" :fault="fault('habit.currencySign')" :choices="money" />
  </FieldPair>
</template>
