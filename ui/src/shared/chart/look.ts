import type { LineSeriesOption } from 'echarts/charts'
import type {
  GridComponentOption,
  MarkLineComponentOption,
  MarkPointComponentOption,
  TooltipComponentOption,
} from 'echarts/components'
import type { XAXisComponentOption, YAXisComponentOption } from 'echarts'
import type { ComposeOption } from 'echarts/core'
import { figure } from '../habit'

export type ChartOption = ComposeOption<
  LineSeriesOption | GridComponentOption | TooltipComponentOption | MarkLineComponentOption | MarkPointComponentOption
>

// colour is one of the look's own (shared/theme/tokens.css).
export const colour = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim()

const text = (size = 13) => ({ fontFamily: "'Source Sans 3 Variable', sans-serif", fontSize: size })

// axis is how every axis looks: figures in the studio's habit, thin lines, no ornament.
export const axis = (
  { axisLabel, ...more }: { axisLabel?: object; [part: string]: unknown },
  figures = (v: number) => figure(v),
): XAXisComponentOption & YAXisComponentOption => ({
  type: 'value',
  axisLine: { show: false },
  axisTick: { show: false },
  axisLabel: { ...text(), color: colour('soft'), formatter: figures, hideOverlap: true, ...axisLabel },
  splitLine: { lineStyle: { color: colour('line') } },
  ...more,
})

// line is a series; marks on it are the look's own.
export const line = (name: string, hue: string, data: [number, number][], more: LineSeriesOption = {}) =>
  ({
    type: 'line',
    name,
    data,
    symbol: 'circle',
    symbolSize: 8,
    showSymbol: false,
    lineStyle: { color: colour(hue), width: 2.5 },
    itemStyle: { color: colour(hue) },
    animation: false,
    ...more,
  }) satisfies LineSeriesOption

// mark names a point of a line, beside the line and not across it.
export const mark = (at: [number, number], name: string, most: number): MarkPointComponentOption => ({
  symbol: 'circle',
  symbolSize: 10,
  animation: false,
  silent: true,
  itemStyle: { color: colour('ink') },
  label: {
    ...text(),
    show: true,
    formatter: name,
    color: colour('ink'),
    fontWeight: 650,
    // to the side that has room; a falling line leaves the room above it
    position: at[0] > most / 2 ? 'left' : 'right',
    offset: [0, -14],
  },
  data: [{ name, coord: at }],
})

// level is a line across: a floor, a limit.
export const level = (value: number, name: string, hue: string): MarkLineComponentOption => ({
  symbol: 'none',
  animation: false,
  silent: true,
  lineStyle: { color: colour(hue), type: 'dashed' },
  label: { ...text(), formatter: name, color: colour(hue), position: 'insideEndTop' },
  data: [{ yAxis: value }],
})

export const grid = { left: 48, right: 16, top: 18, bottom: 26 }
