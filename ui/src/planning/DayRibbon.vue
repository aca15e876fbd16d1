<script setup lang="ts">
import { readClock } from '../api/queries'
import { computed, nextTick, ref, watch } from 'vue'
import { now, thisMinute } from '../shared/clock'
import { ribbonHeight } from '../shared/settings'
import { moment } from '../shared/time'
import { useTray } from '../shared/tray'
import { useElementHeight } from '../shared/useElementSize'
import DayStrip from './DayStrip.vue'
import { usePlan } from './queries'
import { scaleOf, workingWindow } from './scale'

// The day ribbon stands under the top line of every page.
const { data: plan } = usePlan(undefined, 1)
const { open, shown } = useTray()

const day = computed(() => plan.value?.days[0])
const scale = computed(() => (day.value ? scaleOf(day.value, workingWindow([day.value])) : null))
// Open demand stands on the plan, not on the ribbon: nobody works on it yet.
const hands = computed(() => plan.value?.hands.filter((h) => h.state !== 'tentative') ?? [])
const rests = computed(() => plan.value?.rests.filter((r) => r.state !== 'tentative') ?? [])
const picked = computed(() => (shown.value?.kind === 'lot' ? shown.value.id : undefined))

const scroller = ref<HTMLElement | null>(null)
// While it loads it is as tall as it was last, so that the page below does not jump.
const height = useElementHeight(scroller)
watch(height, (tall) => {
  if (day.value && tall > 0) ribbonHeight.value = tall
})

// While a new plan is made the pages stand by the one before; once it is there they are read afresh.
const making = computed(() => plan.value?.making ?? false)
watch(making, (on, before) => {
  if (before && !on) void readClock()
})

// Where the ribbon scrolls sideways, it begins at now.
watch(scale, async (ready, before) => {
  if (!ready || before) return
  await nextTick()
  const box = scroller.value
  if (box) box.scrollLeft = ready.at(now.value) * box.scrollWidth - box.clientWidth / 2
})
</script>

<template>
  <section class="ribbon" aria-label="The day">
    <p v-if="making && plan" class="quiet" role="status">
      By the plan of {{ moment(plan.plannedAt, thisMinute) }}; a new one is being made.
    </p>
    <p v-for="w in plan?.warnings ?? []" :key="w" class="note brick">{{ w }}</p>
    <div ref="scroller" class="scroller">
      <DayStrip
        v-if="day && plan && scale"
        class="inner"
        :day="day"
        :hands="hands"
        :rests="rests"
        :scale="scale"
        :now="thisMinute"
        :most-rests="4"
        :picked="picked"
        label="Today from five in the morning to five the next"
        axis="full"
        @pick="open('lot', $event)"
      />
      <div v-else :style="{ height: `${ribbonHeight}px` }" />
    </div>
  </section>
</template>

<style scoped>
.ribbon {
  padding: 4px 20px 7px;
  background: var(--sheet);
  border-bottom: 1px solid var(--line);
}
.scroller {
  position: relative;
  overflow-x: auto;
  scrollbar-width: thin;
}
@media (max-width: 900px) {
  .ribbon {
    padding-inline: 0;
  }
  .inner {
    width: 1100px;
  }
}
</style>
