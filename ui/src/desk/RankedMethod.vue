<script setup lang="ts">
import { duration } from '../shared/reading'
import type { Schemas } from '../api/client'
import { thisMinute } from '../shared/clock'
import RecipeBars from '../shared/RecipeBars.vue'
import { moment } from '../shared/time'
import { carriers } from '../shared/words'

defineProps<{ method: Schemas['Ranked']; rank: number; busy: boolean }>()
const emit = defineEmits<{ make: [] }>()
</script>

<template>
  <li class="ranked">
    <span class="rank" aria-hidden="true">{{ rank }}</span>
    <div class="what">
      <h3>{{ method.name }}</h3>
      <p class="quiet">{{ method.about }}</p>
      <RecipeBars :bars="method.bars" />
      <p class="when">
        <b v-if="method.readyAt" :class="{ bad: !method.inTime }">ready {{ moment(method.readyAt, thisMinute) }}</b>
        <span v-if="method.layToHandOver">{{ duration(method.layToHandOver) }} from lay to hand-over</span>
        <span>{{ duration(method.handsMinutes) }} of hands</span>
        <span
          >{{ method.print.kind }} on {{ carriers[method.print.carrier] }},
          {{ method.mirror ? 'mirrored' : 'not mirrored' }}</span
        >
      </p>
      <ul class="reasons">
        <li v-for="r in method.for" :key="r" class="pro"><span class="spoken">For it: </span>{{ r }}</li>
        <li v-for="r in method.against" :key="r" class="con"><span class="spoken">Against it: </span>{{ r }}</li>
      </ul>
    </div>
    <button
      :class="rank === 1 ? 'act' : 'side'"
      type="button"
      :disabled="busy"
      :aria-label="`Make it so, by ${method.name}`"
      @click="emit('make')"
    >
      Make it so
    </button>
  </li>
</template>

<style scoped>
.ranked {
  display: grid;
  grid-template-columns: 28px minmax(0, 1fr) auto;
  gap: 6px 14px;
  padding: 12px 0 14px;
  border-top: 1px solid var(--edge);
}
.ranked > button {
  align-self: start;
}
.rank {
  font: 650 21px/1.2 var(--heading);
  color: var(--clay);
}
.what {
  display: grid;
  gap: 5px;
}
.when {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
}
.reasons {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 270px), 1fr));
  gap: 0 20px;
  font-size: 14px;
}
.pro::before {
  content: '+ ';
  font-weight: 650;
  color: var(--glaze);
}
.con::before {
  content: '– ';
  font-weight: 650;
  color: var(--straw);
}
@media (max-width: 640px) {
  .ranked {
    grid-template-columns: 24px minmax(0, 1fr);
  }
  .ranked > button {
    grid-column: 2;
  }
}
</style>
