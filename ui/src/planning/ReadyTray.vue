<script setup lang="ts">
import EmptyNote from '../shared/EmptyNote.vue'
import { computed } from 'vue'
import { thisMinute } from '../shared/clock'
import { moment } from '../shared/time'
import ThingRow from '../shared/ThingRow.vue'
import { readyAt, useShownPlan } from './queries'

// The rests of a ring: what is ready for hands from then on.
const props = defineProps<{ id: number }>()
const plan = useShownPlan()
const rests = computed(() => plan.value && readyAt(props.id, plan.value.rests))
const pieces = computed(() => (rests.value ?? []).reduce((sum, r) => sum + r.pieces, 0))
</script>

<template>
  <div v-if="rests?.length">
    <h1>Ready {{ moment(id * 60000, thisMinute) }}</h1>
    <p>
      <b>{{ pieces }} {{ pieces === 1 ? 'piece' : 'pieces' }}</b> in {{ rests.length }}
      {{ rests.length === 1 ? 'lot' : 'lots' }}
    </p>
    <ul>
      <li v-for="r in rests" :key="`${r.lotId}-${r.step}-${r.start}`">
        <ThingRow :id="r.lotId" kind="lot" class="row">
          <i class="ring drawn" :class="{ over: Date.parse(r.ready) <= thisMinute }" aria-hidden="true" />
          <span class="what">
            <b class="name">{{ r.pieces }} × {{ r.product }}</b>
            <span class="quiet">rested after {{ r.name.toLowerCase() }}</span>
            <span v-if="r.until" class="bad">next step by {{ moment(r.until, thisMinute) }}</span>
          </span>
          <span class="when">{{ moment(r.ready, thisMinute) }}</span>
        </ThingRow>
      </li>
    </ul>
  </div>
  <EmptyNote v-else-if="plan">No rest ends then any more.</EmptyNote>
</template>

<style scoped>
ul {
  margin-top: 10px;
}
.row {
  grid-template-columns: 20px 1fr auto;
  gap: 2px 10px;
  min-height: 52px;
  padding: 6px 0;
}
.ring {
  width: 16px;
  height: 16px;
  border: 3px solid var(--glaze);
  border-radius: 50%;
}
.ring.over {
  border-color: #84aba6;
}
.what {
  display: grid;
  line-height: 1.3;
}
.bad {
  font-size: 14px;
}
.when {
  font-weight: 650;
  color: var(--night);
}
</style>
