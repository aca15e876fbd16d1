<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import ChartBox from '../shared/chart/ChartBox.vue'
import { axis, colour, grid, level, line, type ChartOption } from '../shared/chart/look'
import { thisMinute } from '../shared/clock'
import { figure } from '../shared/habit'
import { dateOf, moment, shortDay } from '../shared/time'
import { quantity } from './words'

// How a material falls as the planned work takes it, and when it is gone.
const props = defineProps<{ need: Schemas['Need']; unit: string }>()

const steps = computed(() => [
  { at: thisMinute.value, left: Number(props.need.onHand), now: true },
  ...props.need.levels.map((l) => ({ at: Date.parse(l.at), left: Number(l.left), now: false })),
])
const standing = (left: number) =>
  left < 0 ? `${quantity(-left, props.unit)} missing` : `${quantity(left, props.unit)} left`
const when = (s: { at: number; now: boolean }) => (s.now ? 'now' : moment(s.at, thisMinute.value))
const said = computed(() => steps.value.map((s) => `${when(s)}: ${standing(s.left)}`))
const rows = computed(() => steps.value.map((s) => [when(s), standing(s.left)]))

// A mark each day, or each few, from now on.
const day = 86400_000
const marks = computed(() => {
  const span = steps.value.at(-1)!.at - steps.value[0]!.at
  return Math.max(1, Math.ceil(span / day / 4)) * day
})

const option = (): ChartOption => ({
  grid,
  xAxis: axis(
    {
      min: steps.value[0]!.at,
      max: steps.value.at(-1)!.at,
      interval: marks.value,
      axisLabel: { showMaxLabel: false },
      splitLine: { show: false },
    },
    (t) => shortDay(dateOf(t)),
  ),
  yAxis: axis({ splitNumber: 3 }, (v) => figure(Math.round(v * 100) / 100)),
  series: [
    line(
      'left',
      'clay',
      steps.value.map((s): [number, number] => [s.at, s.left]),
      {
        step: 'end',
        areaStyle: { color: colour('clay-done'), opacity: 0.5 },
        ...(props.need.levels.some((l) => Number(l.left) < 0) ? { markLine: level(0, 'none left', 'brick') } : {}),
      },
    ),
  ],
})
</script>

<template>
  <ChartBox
    name="What is left as the planned work takes it"
    :option="option"
    :heads="['From', 'There is']"
    :rows="rows"
    :said="said"
    :height="150"
  />
</template>
