<script setup lang="ts">
import EmptyNote from '../shared/EmptyNote.vue'
import { computed } from 'vue'
import { thisMinute } from '../shared/clock'
import { clock, moment } from '../shared/time'
import ThingRow from '../shared/ThingRow.vue'
import { useShownPlan } from './queries'
import { groupBy } from './strip'

// Like work that one person does in one go: its lots in their order, each leading to its own.
const props = defineProps<{ id: number }>()
const plan = useShownPlan()
const found = computed(() => plan.value && groupBy(props.id, plan.value.days, plan.value.hands))
const group = computed(() => found.value?.group)
const marks: Record<string, string> = { done: 'done', inHand: 'in hand', planned: '', tentative: '' }
</script>

<template>
  <div v-if="group">
    <h1>{{ group.work }}</h1>
    <p>
      <b>{{ group.pieces }} {{ group.pieces === 1 ? 'piece' : 'pieces' }}</b> in {{ group.hands.length }}
      {{ group.hands.length === 1 ? 'lot' : 'lots' }}, {{ moment(group.start, thisMinute) }} to {{ clock(group.end)
      }}<template v-if="found?.person">, {{ found.person }}</template>
    </p>
    <ul>
      <li v-for="h in group.hands" :key="`${h.lotId}-${h.step}`">
        <ThingRow :id="h.lotId" kind="lot" class="row">
          <span class="quiet">{{ clock(h.start) }}</span>
          <span class="what">
            <b class="name">{{ h.pieces }} × {{ h.product }}</b>
            <span class="quiet">{{ h.name }}, batch {{ h.batch }}, lot {{ h.lot }}</span>
            <span v-if="h.late" class="bad">will miss its promise</span>
          </span>
          <span class="quiet">{{ marks[h.state] }}</span>
        </ThingRow>
      </li>
    </ul>
  </div>
  <EmptyNote v-else-if="plan">The plan has changed: this is not done in one go any more.</EmptyNote>
</template>

<style scoped>
ul {
  margin-top: 10px;
}
.row {
  grid-template-columns: 44px 1fr auto;
  gap: 2px 10px;
  min-height: 52px;
  padding: 6px 0;
}
.what {
  display: grid;
  line-height: 1.3;
}
.bad {
  font-size: 14px;
}
</style>
