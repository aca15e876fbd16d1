<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted, onUnmounted, ref } from 'vue'
import FoldBox from '../FoldBox.vue'
import { whenIdle } from '../idle'
import type { ChartOption } from './look'

// A chart that values are read from: by pointing, by the arrow keys, and as a table.
// It is drawn when it comes into sight and the page has nothing else to do.
const props = defineProps<{
  name: string
  // option is made when the chart is drawn, so that no page makes it for nothing.
  option: () => ChartOption
  heads: string[]
  rows: string[][]
  said: string[]
  height?: number
}>()
const ChartTable = defineAsyncComponent(() => import('./ChartTable.vue'))
const ReadChart = defineAsyncComponent(() => import('./ReadChart.vue'))

const box = ref<HTMLElement | null>(null)
const drawn = ref(false)
const at = ref(-1)
const last = computed(() => props.said.length - 1)
const option = computed(() => (drawn.value ? props.option() : null))

const steps: Record<string, (i: number) => number> = {
  ArrowRight: (i) => i + 1,
  ArrowUp: (i) => i + 1,
  ArrowLeft: (i) => i - 1,
  ArrowDown: (i) => i - 1,
  PageUp: (i) => i + 6,
  PageDown: (i) => i - 6,
  Home: () => 0,
  End: () => last.value,
}
function step(event: KeyboardEvent) {
  const to = steps[event.key]
  if (!to) return
  event.preventDefault()
  at.value = Math.max(0, Math.min(last.value, to(at.value)))
}

const seen = new IntersectionObserver((entries) => {
  if (!entries.some((e) => e.isIntersecting)) return
  seen.disconnect()
  whenIdle(() => (drawn.value = true))
})
onMounted(() => box.value && seen.observe(box.value))
onUnmounted(() => seen.disconnect())
</script>

<template>
  <figure>
    <div
      ref="box"
      class="chart"
      role="slider"
      tabindex="0"
      :aria-label="name"
      aria-valuemin="0"
      :aria-valuemax="Math.max(0, last)"
      :aria-valuenow="Math.max(0, at)"
      :aria-valuetext="said[Math.max(0, at)] ?? ''"
      :style="{ height: `${height ?? 190}px` }"
      @keydown="step"
      @blur="at = -1"
    >
      <ReadChart v-if="option" :option="option" :said="said" :at="at" />
    </div>
    <figcaption v-if="$slots.default" class="quiet"><slot /></figcaption>
    <FoldBox name="As a table">
      <ChartTable :name="name" :heads="heads" :rows="rows" />
    </FoldBox>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
</style>
