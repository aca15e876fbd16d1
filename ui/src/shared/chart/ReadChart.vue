<script setup lang="ts">
import { LineChart } from 'echarts/charts'
import { GridComponent, MarkLineComponent, MarkPointComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { CanvasRenderer } from 'echarts/renderers'
import { computed, ref, watch } from 'vue'
import VChart from 'vue-echarts'
import { colour, type ChartOption } from './look'

// The drawing of a chart, with what is said of each point when it is pointed at.
use([LineChart, GridComponent, MarkLineComponent, MarkPointComponent, TooltipComponent, CanvasRenderer])

const props = defineProps<{ option: ChartOption; said: string[]; at: number }>()
const chart = ref<InstanceType<typeof VChart> | null>(null)

const whole = computed<ChartOption>(() => ({
  ...props.option,
  tooltip: {
    trigger: 'axis',
    transitionDuration: 0,
    backgroundColor: colour('ink'),
    borderWidth: 0,
    padding: [6, 10],
    textStyle: { color: '#fff', fontFamily: "'Source Sans 3 Variable', sans-serif", fontSize: 14 },
    axisPointer: { lineStyle: { color: colour('ink') }, animation: false },
    formatter: (points) => {
      const point = Array.isArray(points) ? points[0] : points
      const words = document.createElement('span')
      words.textContent = props.said[point?.dataIndex ?? 0] ?? ''
      return words
    },
  },
}))
watch(
  () => props.at,
  (at) =>
    chart.value?.dispatchAction(at < 0 ? { type: 'hideTip' } : { type: 'showTip', seriesIndex: 0, dataIndex: at }),
)
</script>

<template>
  <VChart ref="chart" :option="whole" autoresize />
</template>
