<script setup lang="ts">
import { duration } from '../shared/reading'
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import { minutesBetween, moment } from '../shared/time'
import { useTray } from '../shared/tray'

const props = defineProps<{ lot: Schemas['RestLot']; busy: boolean }>()
const emit = defineEmits<{ take: [] }>()
const { open } = useTray()

const kinds: Record<string, string> = { dry: 'drying', cure: 'curing', soak: 'soaking', cool: 'cooling' }
const share = computed(() => {
  const whole = minutesBetween(props.lot.start, props.lot.ready)
  return `${Math.min(100, Math.max(2, (minutesBetween(props.lot.start, thisMinute.value) / whole) * 100))}%`
})
const left = computed(() => duration(minutesBetween(thisMinute.value, props.lot.ready)))
const best = computed(() => (Date.parse(props.lot.best) > Date.parse(props.lot.ready) ? props.lot.best : null))
</script>

<template>
  <li class="row">
    <div class="line">
      <p>
        <button class="opens" type="button" @click="open('lot', lot.lotId)">
          {{ lot.pieces.length }} × {{ lot.product }}
        </button>
        <span class="quiet">&nbsp;{{ kinds[lot.kind] }} after {{ lot.after.toLowerCase() }}</span>
      </p>
      <p class="ready">ready {{ moment(lot.ready, thisMinute) }}</p>
    </div>
    <div class="track drawn"><div class="hatch" :style="{ width: share }" /></div>
    <div class="line">
      <p class="quiet">
        {{ left }} left<template v-if="best">, best {{ moment(best, thisMinute) }}</template
        ><template v-if="lot.until">, by {{ moment(lot.until, thisMinute) }} at the latest</template> · then
        {{ lot.stepName.toLowerCase()
        }}<template v-if="lot.slowReady"> · in this air allow until {{ moment(lot.slowReady, thisMinute) }}</template>
      </p>
      <button class="word" type="button" :disabled="busy" @click="emit('take')">
        Begin early<span class="spoken"> with {{ lot.stepName }}, {{ lot.product }}</span>
      </button>
    </div>
  </li>
</template>

<style scoped>
.row {
  display: grid;
  gap: 5px;
  padding: 10px 0 8px;
  border-bottom: 1px solid var(--line);
}
.line {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
.ready {
  flex: none;
  font-weight: 650;
  color: var(--night);
}
.track {
  background: linear-gradient(var(--line), var(--line)) center / 100% 3px no-repeat;
}
.hatch {
  height: 9px;
}
.word {
  flex: none;
  font-size: 14px;
  color: var(--soft);
}
</style>
