<script setup lang="ts">
import { duration } from './reading'
import { computed } from 'vue'

// A recipe as bars of hands and ribbons of rest. Hours of rest and minutes of
// hands share one scale only if both are drawn by their roots.
const props = defineProps<{ bars: { name: string; minutes: number; rest: number }[]; labelled?: boolean }>()

const weight = (minutes: number, least: number) => Math.max(least, Math.sqrt(minutes))
const sentence = computed(() =>
  props.bars
    .map((b) => `${b.name} ${duration(b.minutes)}${b.rest > 0 ? `, then rest ${duration(b.rest)}` : ''}`)
    .join('; '),
)
</script>

<template>
  <div class="bars" role="img" :aria-label="sentence">
    <template v-for="(bar, i) in bars" :key="i">
      <span
        class="hands"
        :style="{ flexGrow: weight(bar.minutes, 2) }"
        :data-tip="`${bar.name}, ${duration(bar.minutes)}`"
      />
      <span
        v-if="bar.rest > 0"
        class="hatch rest"
        :style="{ flexGrow: weight(bar.rest, 4) }"
        :data-tip="`rest ${duration(bar.rest)}`"
      />
    </template>
  </div>
</template>

<style scoped>
.bars {
  display: flex;
  align-items: center;
  gap: 2px;
  height: 24px;
  width: 100%;
}
.hands {
  flex-basis: 0;
  height: 24px;
  background: var(--clay);
}
.rest {
  flex-basis: 0;
  height: 10px;
}
@media (forced-colors: active) {
  .hands,
  .rest {
    forced-color-adjust: none;
  }
}
</style>
