<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import ChartBox from '../shared/chart/ChartBox.vue'
import { axis, colour, grid, line, mark, type ChartOption } from '../shared/chart/look'
import { figure } from '../shared/habit'
import { money } from '../shared/money'

// Cost of a piece over the size of the batch, the steps where another sheet,
// pack or lot begins, and the size past which little is saved.
const props = defineProps<{ curve: Schemas['Curve']; at?: number }>()

const points = computed(() => props.curve.points)
const most = computed(() => points.value.length)
// The first few sizes cost so much more that the curve is drawn from three on.
const shown = computed(() => (most.value > 3 ? points.value.filter((p) => p.pieces >= 3) : points.value))
const begun = computed(() => shown.value.filter((p) => p.begins.length > 0))
const beginning = (p: Schemas['CurvePoint']) => (p.begins.length ? `begins ${p.begins.join(', ')}` : '')
const pieces = (n: number) => (n === 1 ? '1 piece' : `${n} pieces`)

const said = computed(() =>
  shown.value.map((p) => [`${money(p.cost)} each in a batch of ${p.pieces}`, beginning(p)].filter(Boolean).join('; ')),
)
const rows = computed(() => shown.value.map((p) => [pieces(p.pieces), money(p.cost), beginning(p)]))

function option(): ChartOption {
  const at = (size: number | undefined): [number, number] | undefined => {
    const p = shown.value.find((q) => q.pieces === size)
    return p && [p.pieces, Number(p.cost)]
  }
  const curve = shown.value.map((p): [number, number] => [p.pieces, Number(p.cost)])
  const costs = curve.map(([, cost]) => cost)
  const floor = Math.floor(Math.min(...costs) * 0.95)
  const top = Math.ceil(Math.max(...costs))
  const enough = at(props.curve.enough)
  const here = at(props.at)
  return {
    grid,
    xAxis: axis({ min: 0, max: most.value, splitLine: { show: false } }),
    yAxis: axis({ min: floor, max: top, interval: (top - floor) / 2 }, (v) => figure(v, 1)),
    series: [
      line('cost of a piece', 'clay', curve, {
        markPoint: enough && mark(enough, `past ${props.curve.enough} little is saved`, most.value),
      }),
      line('here', 'clay', here && props.at !== props.curve.enough ? [here] : [], {
        showSymbol: true,
        symbolSize: 11,
        itemStyle: { color: colour('sheet'), borderColor: colour('clay'), borderWidth: 2.5 },
        tooltip: { show: false },
        silent: true,
      }),
      line(
        'begins',
        'night',
        begun.value.map((p): [number, number] => [p.pieces, floor]),
        { lineStyle: { opacity: 0 }, showSymbol: true, symbol: 'rect', symbolSize: [2, 12], silent: true },
      ),
    ],
  }
}
</script>

<template>
  <ChartBox
    name="Cost of a piece by the size of the batch"
    :option="option"
    :heads="['Batch of', 'A piece costs', 'What begins there']"
    :rows="rows"
    :said="said"
  >
    cost of a piece, by pieces in the batch<template v-if="begun.length"
      >; the ticks are where another sheet, pack or lot begins</template
    >
  </ChartBox>
</template>
