<script setup lang="ts">
import { readClock } from '../api/queries'
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { now, thisMinute } from '../shared/clock'
import { ribbonHeight, ribbonOpen } from '../shared/settings'
import { useKeys } from '../shared/keys'
import { clock, moment } from '../shared/time'
import { useTray } from '../shared/tray'
import { useElementHeight } from '../shared/useElementSize'
import DayStrip from './DayStrip.vue'
import FoldedDay from './FoldedDay.vue'
import { usePicked, useRibbon } from './queries'
import { scaleOf, workingWindow } from './scale'

// The day ribbon stands under the top line of every page: open where the
// question is time, one line elsewhere, until somebody has it otherwise.
const { data: plan } = useRibbon()
const { open } = useTray()
const route = useRoute()

// Until the first page has come the router knows none; the address does.
const aboutTime = computed(() => {
  const path = route.matched.length > 0 ? route.path : window.location.pathname
  return ['/', '/plan', '/orders'].includes(path)
})
const isOpen = computed(() => (aboutTime.value ? ribbonOpen.value.time : ribbonOpen.value.others))
const fold = () => {
  ribbonOpen.value = { ...ribbonOpen.value, [aboutTime.value ? 'time' : 'others']: !isOpen.value }
}
useKeys({ r: fold })

const day = computed(() => plan.value?.days[0])
const scale = computed(() => (day.value ? scaleOf(day.value, workingWindow([day.value])) : null))
// Open demand stands on the plan, not on the ribbon: nobody works on it yet.
const hands = computed(() => plan.value?.hands.filter((h) => h.state !== 'tentative') ?? [])
const rests = computed(() => plan.value?.rests.filter((r) => r.state !== 'tentative') ?? [])
const picked = usePicked(() => plan.value)
const label = computed(() => {
  if (!plan.value?.opens) return 'Today from five in the morning to five the next'
  return `Hands are over for today: the night, and the next working day from ${clock(plan.value.opens)}`
})

const ribbon = ref<HTMLElement | null>(null)
const tall = useElementHeight(ribbon)
// What stands beside the page is as high as what the top line and the ribbon leave.
const topLine = 48
watch([tall, isOpen], () => {
  const bottom = ribbon.value ? topLine + ribbon.value.offsetHeight : topLine
  document.documentElement.style.setProperty('--above', `${bottom}px`)
})

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
watch([scale, isOpen], async ([ready, shown], [before, shownBefore]) => {
  if (!ready || !shown || (before && shownBefore)) return
  await nextTick()
  // measured when the browser measures anyway
  await new Promise((next) => requestAnimationFrame(next))
  const box = scroller.value
  if (box) box.scrollLeft = ready.at(now.value) * box.scrollWidth - box.clientWidth / 2
})
</script>

<template>
  <section ref="ribbon" class="ribbon" :class="{ shut: !isOpen }" aria-label="The day">
    <p v-if="making && plan" class="quiet" role="status">
      By the plan of {{ moment(plan.plannedAt, thisMinute) }}; a new one is being made.
    </p>
    <p v-for="w in plan?.warnings ?? []" :key="w" class="note brick">{{ w }}</p>
    <div class="line">
      <div v-if="isOpen" ref="scroller" class="scroller">
        <DayStrip
          v-if="day && plan && scale"
          class="inner"
          :day="day"
          :hands="hands"
          :rests="rests"
          :scale="scale"
          :rack-places="plan.rackPlaces"
          :now="thisMinute"
          :own="picked"
          :label="label"
          axis="full"
          @pick="open('lot', $event)"
          @work="open('work', $event)"
          @ready="open('ready', $event)"
        />
        <div v-else :style="{ height: `${ribbonHeight}px` }" />
      </div>
      <FoldedDay v-else :day="day" :hands="hands" :scale="scale" />
      <button
        type="button"
        class="fold"
        :aria-expanded="isOpen"
        :aria-label="isOpen ? 'Fold the day' : 'Unfold the day'"
        :data-tip="isOpen ? 'Fold the day (R)' : 'Unfold the day (R)'"
        @click="fold"
      >
        <svg width="12" height="8" viewBox="0 0 12 8" aria-hidden="true">
          <path :d="isOpen ? 'M1 7L6 2L11 7' : 'M1 1L6 6L11 1'" fill="none" stroke="currentColor" stroke-width="2" />
        </svg>
      </button>
    </div>
  </section>
</template>

<style scoped>
.ribbon {
  padding: 4px 20px 6px;
  background: var(--sheet);
  border-bottom: 1px solid var(--line);
}
.ribbon.shut {
  padding-block: 0;
}
.line {
  display: grid;
  position: relative;
}
.shut .line {
  grid-template-columns: minmax(0, 1fr) 24px;
  gap: 12px;
  align-items: center;
}
.scroller {
  position: relative;
  min-width: 0;
  overflow-x: auto;
  scrollbar-width: thin;
}
/* what a bar's name hangs over is not clipped */
@media (min-width: 901px) {
  .scroller {
    overflow: visible;
  }
}
.fold {
  display: grid;
  place-items: center;
  width: 24px;
  height: 24px;
  padding: 0;
  border: 0;
  background: none;
  color: var(--soft);
  cursor: pointer;
}
.ribbon:not(.shut) .fold {
  position: absolute;
  right: -18px;
  top: -3px;
}
.fold:hover {
  color: var(--ink);
}
@media (max-width: 900px) {
  .ribbon {
    padding-inline: 0;
  }
  .ribbon.shut {
    padding-inline: 12px;
  }
  /* beside the hours, and not over what lies under them */
  .ribbon:not(.shut) .fold {
    right: 0;
    align-items: start;
    padding-top: 6px;
    background: linear-gradient(var(--sheet) 20px, transparent 20px);
  }
  .inner {
    width: 1100px;
  }
}
@media (max-width: 640px), (pointer: coarse) {
  .fold {
    width: 48px;
    height: 36px;
  }
  .shut .line {
    grid-template-columns: minmax(0, 1fr) 48px;
  }
}
</style>
