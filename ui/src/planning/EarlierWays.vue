<script setup lang="ts">
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { useAnswer } from '../api/answers'
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import EmptyNote from '../shared/EmptyNote.vue'
import { duration } from '../shared/reading'
import { moment } from '../shared/time'
import WaitingRows from '../shared/WaitingRows.vue'
import { also } from './whatIf'

// What would make a lot ready earlier: one thing to relax each, the most gained first.
const props = defineProps<{ lotId: number; said: string }>()
const { data, error } = useAnswer('/api/lots/{id}/earlier', () => ({ path: { id: props.lotId } }), { keep: true })
const router = useRouter()
const ways = computed(() => data.value?.ways ?? [])
const others = (w: Schemas['Way']) =>
  w.breaks ? `breaks ${w.breaks === 1 ? 'a promise' : `${w.breaks} promises`}` : 'breaks nobody’s promise'
function tryIt(w: Schemas['Way']) {
  also(w.suppose, `${props.said}: ${w.says}`)
  router.push('/plan?tray=what-if')
}
</script>

<template>
  <div class="ways">
    <p v-if="error" class="bad">{{ error.message }}</p>
    <WaitingRows v-else-if="!data" :rows="2" />
    <EmptyNote v-else-if="ways.length === 0">Nothing that can be had gains ten minutes or more.</EmptyNote>
    <ul v-else aria-label="What would make it earlier">
      <li v-for="w in ways" :key="w.says">
        <p>
          <b>{{ duration(w.gainMinutes) }} earlier</b>, {{ moment(w.readyAt, thisMinute) }}, if {{ w.says }}
        </p>
        <p class="quiet">{{ others(w) }}</p>
        <button class="word" type="button" @click="tryIt(w)">Try it on the plan</button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.ways {
  overflow-wrap: anywhere;
}
.ways ul {
  display: grid;
  gap: 8px;
}
.ways li {
  padding: 6px 10px;
  border-left: 3px solid var(--glaze);
}
</style>
