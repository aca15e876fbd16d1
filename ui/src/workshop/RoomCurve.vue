<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import ChartBox from '../shared/chart/ChartBox.vue'
import { axis, grid, level, line, type ChartOption } from '../shared/chart/look'
import { figure } from '../shared/habit'
import { clock, moment } from '../shared/time'
import { thisMinute } from '../shared/clock'

// The room's air over the last day: warmth on the left, damp on the right.
const props = defineProps<{ hours: Schemas['RoomHour'][] }>()

// Under this nothing water-based forms a film.
const tooCold = 10
const damp = (h: Schemas['RoomHour']) => Math.round(h.humidity * 100)
const said = computed(() =>
  props.hours.map((h) => `${moment(h.hour, thisMinute.value)}: ${figure(h.celsius, 1)} °C, ${damp(h)} % damp`),
)
const rows = computed(() =>
  props.hours.map((h) => [moment(h.hour, thisMinute.value), `${figure(h.celsius, 1)} °C`, `${damp(h)} %`]),
)

function option(): ChartOption {
  const at = props.hours.map((h) => Date.parse(h.hour))
  const all = props.hours.map((h) => h.celsius)
  const low = Math.floor(Math.min(...all, 14) / 2) * 2
  const high = Math.max(Math.ceil(Math.max(...all, 24) / 2) * 2, low + 4)
  return {
    grid: { ...grid, right: 48 },
    xAxis: axis({ min: at[0], max: at.at(-1), splitLine: { show: false }, interval: 6 * 3600_000 }, (t) => clock(t)),
    yAxis: [
      axis({ min: low, max: high, interval: (high - low) / 2 }, (v) => `${figure(v)}°`),
      axis({ min: 0, max: 100, interval: 50, splitLine: { show: false } }, (v) => `${v} %`),
    ],
    series: [
      line(
        'warmth',
        'clay',
        props.hours.map((h, i): [number, number] => [at[i]!, h.celsius]),
        low < tooCold ? { markLine: level(tooCold, 'too cold', 'brick') } : {},
      ),
      line(
        'damp',
        'night',
        props.hours.map((h, i): [number, number] => [at[i]!, damp(h)]),
        { yAxisIndex: 1, lineStyle: { type: 'dashed', width: 2 } },
      ),
    ],
  }
}
</script>

<template>
  <ChartBox
    name="The room’s air over the last day"
    :option="option"
    :heads="['At', 'Warmth', 'Damp']"
    :rows="rows"
    :said="said"
    :height="160"
  >
    solid: warmth, left · dashed: damp, right
  </ChartBox>
</template>
