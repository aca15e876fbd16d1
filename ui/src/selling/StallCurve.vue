<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import ChartBox from '../shared/chart/ChartBox.vue'
import { axis, grid, level, line, mark, type ChartOption } from '../shared/chart/look'
import { figure } from '../shared/habit'
import { money } from '../shared/money'

// What is left of a day at a stall, over the pieces sold in the proportion they were taken.
const props = defineProps<{ answer: Schemas['FairAnswer']; stall: number }>()

const sold = computed(() => Array.from({ length: props.answer.pieces + 1 }, (_, n) => n))
const left = (n: number) =>
  -props.stall + (n * (Number(props.answer.brings) + props.stall)) / Math.max(1, props.answer.pieces)
const standing = (n: number) => (left(n) < 0 ? `${money(-left(n))} short of the stall` : `${money(left(n))} left`)
const said = computed(() => sold.value.map((n) => `${n} sold: ${standing(n)}`))
const rows = computed(() => sold.value.map((n) => [String(n), standing(n)]))

const option = (): ChartOption => ({
  grid,
  xAxis: axis({ min: 0, max: props.answer.pieces, minInterval: 1, splitLine: { show: false } }),
  yAxis: axis({ splitNumber: 3 }, (v) => figure(v)),
  series: [
    line(
      'left',
      'clay',
      sold.value.map((n): [number, number] => [n, left(n)]),
      {
        markLine: level(0, '', 'soft'),
        markPoint: props.answer.breakEven
          ? mark(
              [props.answer.breakEven, left(props.answer.breakEven)],
              `paid at ${props.answer.breakEven}`,
              props.answer.pieces,
            )
          : undefined,
      },
    ),
  ],
})
</script>

<template>
  <ChartBox
    name="What is left of the stall by pieces sold"
    :option="option"
    :heads="['Sold', 'Then there is']"
    :rows="rows"
    :said="said"
    :height="170"
  >
    what is left, by pieces sold in the proportion they are taken
  </ChartBox>
</template>
